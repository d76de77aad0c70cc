import { fail } from "../../errors";
import { centre, diagonal, dot, drawOutSheet, looseBoxOf, type Shape, sheetFromFaces, sub } from "../../kernel";
import { type Body, type FaceRef, type Item, isBody, type SketchItem } from "../../naming";
import type { KeepSide, Knife } from "../../seam";
import { profileOf, stretchesOf } from "../../sketch";
import { faceNames } from "../extrude/faces";
import type { StepContext } from "../step";
import { planeKnife } from "./plane-knife";

/** The values of the step that say what cuts. */
interface CutterValues {
  cutters: string[];
  cutterFaces: FaceRef[];
  keepSide: Record<string, KeepSide>;
}

/** The cutters as knives. A workplane becomes a face that reaches past all the stock. */
export function knivesOf(values: CutterValues, stock: Body[], context: StepContext, owned: Shape[]) {
  const stockIds = new Set(stock.map((body) => body.id));
  const items = unique(values.cutters.flatMap((ref) => context.items([ref]))).filter((item) => !stockIds.has(item.id));
  const keepSide: Record<string, KeepSide> = {};
  for (const [ref, side] of Object.entries(values.keepSide)) {
    const named = values.cutters.includes(ref) ? context.items([ref]) : [];
    if (named.length === 0) keepSide[ref] = side;
    for (const item of named) keepSide[item.id] = side;
  }
  const knives: Knife[] = items.map((item) => {
    if (isBody(item)) return { item, shape: item.shape, faces: item.faces };
    if (item.kind === "sketch") {
      const knife = sketchKnife(item, stock, context);
      owned.push(knife.shape);
      return knife;
    }
    return planeKnife(item, stock);
  });
  for (const ref of values.cutterFaces) {
    const { body, face } = context.face(ref);
    const sheet = sheetFromFaces(body.shape, [face]);
    owned.push(sheet.shape);
    const name = body.faces[face]!;
    const item: Item = { id: `face:${name}`, kind: "sheet", shape: sheet.shape, faces: [name], hint: { text: "Face" } };
    knives.push({ item, shape: sheet.shape, faces: [name] });
  }
  return { knives, keepSide };
}

/** A sketch cuts as the sheet that its curves sweep square to its plane, past all the stock on both sides. */
function sketchKnife(item: SketchItem, stock: readonly Body[], context: StepContext): Knife {
  const profile = profileOf(item.entities);
  if (profile.graph.stretches.length === 0)
    fail("nothing-drawn", `${context.nameOf(item.id)} holds no curves, so it divides nothing. Draw a line in it.`, {
      step: context.step,
      bodies: [item.id],
    });
  const { origin, normal } = item.frame;
  const heights = stock.flatMap(({ shape }) => {
    const box = looseBoxOf(shape);
    if (!box) return [];
    const middle = dot(sub(centre(box), origin), normal);
    return [middle - diagonal(box), middle + diagonal(box)];
  });
  const drawn = drawOutSheet(
    item.frame,
    profile.graph.places,
    stretchesOf(profile),
    Math.min(...heights) - 1,
    Math.max(...heights) + 1,
  );
  return { item, shape: drawn.shape, faces: faceNames(item.id.split(":")[0]!, drawn, profile) };
}

/** Each thing once, by id. */
export function unique<T extends { id: string }>(items: readonly T[]): T[] {
  return [...new Map(items.map((item) => [item.id, item])).values()];
}

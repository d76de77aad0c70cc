import { fail } from "../../errors";
import { type Body, has, ITEM_KINDS, type Item, type SketchItem } from "../../items";
import {
  centre,
  corners,
  cross,
  diagonal,
  dot,
  drawOutSheet,
  extendSheet,
  formVolume,
  KernelFault,
  looseBoxOf,
  openPlaces,
  type Shape,
  sheetFromFaces,
  sub,
  unionBox,
  volumeOf,
  wholeFace,
} from "../../kernel";
import type { FaceRef } from "../../references";
import type { KeepSide, Knife } from "../../seam";
import { profileOf, runOnProfile, sensesOf, stretchesOf, type Vec2 } from "../../sketch";
import type { StepContext } from "../evaluation";
import { faceNames } from "../extrude/faces";
import { type GapValues, keepsGap, refuseOtherFaces, withGap } from "./gap";
import { planeKnife } from "./plane-knife";

/** The values of the step that say what cuts. */
interface CutterValues extends GapValues {
  stock: string[];
  cutters: string[];
  cutterFaces: FaceRef[];
  runOn: boolean;
  runSheets: boolean;
  mutual: boolean;
  keepSide: Record<string, KeepSide>;
}

/**
 * The cutters as knives, the faces that some of them are of, the ids that each name stands for, and which side of each stays. A workplane becomes a face that reaches past all the stock.
 * @throws SeamError `side-of-nothing` where a side is given for what does not cut.
 */
export function knivesOf(values: CutterValues, stock: Body[], context: StepContext, owned: Shape[]) {
  const stockIds = new Set(stock.map((body) => body.id));
  const others = values.cutters.flatMap((ref) => context.items([ref])).filter((item) => !stockIds.has(item.id));
  // One body alone has no other to divide.
  const mutual = values.mutual && stock.length > 1;
  const items: Item[] = unique([...others, ...(mutual ? stock : [])]);
  const gap = keepsGap(values);
  if (gap) refuseOtherFaces(values, others, context);
  const knives: Knife[] = items.map((item) => {
    if (has(item, "skin") && values.runSheets && openPlaces(item.shape).length > 0)
      return runOnSheet(item, stock, owned, context);
    if (has(item, "closed") && has(item, "body") && gap && !stockIds.has(item.id))
      return withGap(item, stock, values, context);
    if (has(item, "body")) return { item, shape: item.shape, faces: item.faces, turns: outwardTurns(item) };
    if (has(item, "plane")) return planeKnife(item, stock, owned);
    if (!has(item, "drawn"))
      fail(
        "cuts-nothing",
        `${context.nameOf(item.id)} is a ${ITEM_KINDS[item.kind].word}, which cuts nothing. Pick another cutter.`,
        {
          step: context.step,
          bodies: [item.id],
        },
      );
    const knife = sketchKnife(item, stock, values.runOn, context);
    owned.push(knife.shape);
    return knife;
  });
  // What a side may be listed under, by the cutter that it belongs to: a face keeps its side when it is found under another name.
  const listed = new Map<string, string[]>();
  for (const ref of [...values.cutters, ...(mutual ? values.stock : [])])
    listed.set(
      ref,
      context.items([ref]).map(({ id }) => id),
    );
  for (const { id } of items) if (!listed.has(id)) listed.set(id, [id]);
  const faces = values.cutterFaces.map((ref) => context.face(ref));
  values.cutterFaces.forEach((ref, i) => {
    const { body, face } = faces[i]!;
    const shape = values.runOn ? runOnFace(body, face, stock, context) : sheetFromFaces(body.shape, [face]).shape;
    owned.push(shape);
    const name = body.faces[face]!;
    const plain = `face:${ref.face ?? name}`;
    const id = knives.some(({ item }) => item.id === plain) ? `face:${body.id}:${ref.face ?? name}` : plain;
    const item: Item = { id, kind: "sheet", shape, faces: [name], hint: { text: "Face" } };
    knives.push({ item, shape, faces: [name] });
    listed.set(id, [id]);
    if (!listed.has(`face:${name}`)) listed.set(`face:${name}`, [id]);
  });
  // What was said of stock while it cut waits until it does again.
  const idle = new Set(mutual ? [] : [...values.stock, ...stockIds]);
  const given = Object.fromEntries(
    Object.entries(values.keepSide).filter(([key]) => !idle.has(key) || listed.has(key)),
  );
  return { knives, faces, listed, keepSide: values.preset === "trim" ? sidesOf(given, listed, context) : {} };
}

/** An open sheet, run on past all the stock. @throws SeamError `sheet-ends` where it cannot be. */
function runOnSheet(item: Body, stock: readonly Body[], owned: Shape[], { step, nameOf }: StepContext): Knife {
  const room = [item, ...stock].flatMap(({ shape }) => looseBoxOf(shape) ?? []).reduce(unionBox);
  try {
    const { shape, sources } = extendSheet(
      { shape: item.shape, sources: item.faces.map((_, face) => face) },
      diagonal(room) + 1,
    );
    owned.push(shape);
    return { item, shape, faces: sources.map((face) => item.faces[face]!) };
  } catch (cause) {
    if (!(cause instanceof KernelFault) || cause.fatal) throw cause;
    return fail(
      "sheet-ends",
      `${nameOf(item.id)} cannot be run on: a face of it ends with its surface, or its faces do not meet again. Cut with it as far as it reaches, or with one face of it that is run on.`,
      { step, bodies: [item.id], field: "runSheets" },
    );
  }
}

/** A face as its whole surface, past all the stock. @throws SeamError `face-ends` where the surface ends with the face. */
function runOnFace(body: Body, face: number, stock: readonly Body[], { step, nameOf }: StepContext): Shape {
  const room = stock.flatMap(({ shape }) => looseBoxOf(shape) ?? []).reduce(unionBox);
  return (
    wholeFace(body.shape, face, room) ??
    fail(
      "face-ends",
      `This face of ${nameOf(body.id)} cannot be run on: its surface ends where it ends. Cut with it as far as it reaches, or with an offset sheet that is extended.`,
      { step, bodies: [body.id], field: "cutterFaces" },
    )
  );
}

function sidesOf(given: Record<string, KeepSide>, listed: ReadonlyMap<string, string[]>, { step }: StepContext) {
  const sides: Record<string, KeepSide> = {};
  for (const [key, side] of Object.entries(given)) {
    const owners = listed.get(key);
    if (!owners)
      fail("side-of-nothing", `A side is given for “${key}”, which is none of the cutters. Give it for one of them.`, {
        step,
        field: "keepSide",
        repair: {
          label: "Leave that side out",
          step,
          set: { keepSide: Object.fromEntries(Object.entries(given).filter(([other]) => listed.has(other))) },
        },
      });
    for (const id of owners) sides[id] = side;
  }
  return sides;
}

/** A closed sheet has an outside: that is its front, however it was made. */
function outwardTurns({ kind, shape, faces }: Body): number[] | undefined {
  if (kind !== "sheet" || openPlaces(shape).length > 0 || (formVolume(shape) ?? volumeOf(shape)) >= 0) return undefined;
  return faces.map(() => -1);
}

/**
 * A sketch cuts as the sheet that its curves sweep square to its plane, past all the stock on both sides.
 * @param runOn whether its open ends run on straight, past all the stock, too.
 */
function sketchKnife(item: SketchItem, stock: readonly Body[], runOn: boolean, context: StepContext): Knife {
  const profile = runOn ? runOnProfile(item.entities, reachOver(item, stock)) : profileOf(item.entities);
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
  const senses = sensesOf(profile);
  const turns = drawn.sources.map((source) => (typeof source === "number" ? senses[source]! : 1));
  return { item, shape: drawn.shape, faces: faceNames(item.id.split(":")[0]!, drawn, profile), turns };
}

/** How far a line from a place of a sketch has to run so that all stock lies within it, whichever way it goes. */
function reachOver({ frame: { origin, x, normal } }: SketchItem, stock: readonly Body[]) {
  const y = cross(normal, x);
  const places = stock.flatMap(({ shape }) => {
    const box = looseBoxOf(shape);
    return box ? corners(box).map((at) => sub(at, origin)) : [];
  });
  return ([u, v]: Vec2) => 1 + Math.max(0, ...places.map((at) => Math.hypot(dot(at, x) - u, dot(at, y) - v)));
}

/** Each thing once, by id. */
export function unique<T extends { id: string }>(items: readonly T[]): T[] {
  return [...new Map(items.map((item) => [item.id, item])).values()];
}

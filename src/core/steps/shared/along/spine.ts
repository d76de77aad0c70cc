import type * as z from "zod";
import { fail } from "../../../errors";
import type { Body } from "../../../items";
import { has } from "../../../items/kinds";
import {
  type Bend,
  chainOf,
  cross,
  dot,
  freeShape,
  type Spine,
  type SweepManner,
  type SweptSection,
  startOf,
  sub,
  sweepAlong,
} from "../../../kernel";
import { faceNamesOf } from "../../../naming";
import { divideEach, joinPieces } from "../../../seam";
import { pathOf, stretchesOf } from "../../../sketch";
import { SAME_PLACE } from "../../../tolerance";
import { formatDeviation, formatLength } from "../../../units";
import type { StepContext } from "../../evaluation";
import { sketchProfile } from "../profile/profile";
import type { alongFields } from "./declare";

interface Values {
  along: "sketch" | "edges";
  path: string[];
  edges: z.infer<(typeof alongFields)["edges"]>;
}

/** A path, with what its parts are called in the names of faces. */
export interface NamedSpine {
  spine: Spine;
  /** The item that it comes from. */
  from: string;
  nameOf(number: number): string;
}

/** The path that a step goes along. @throws SeamError where there is none, or it branches. */
export function spineOf(values: Values, context: StepContext): NamedSpine {
  const { step } = context;
  if (values.along === "sketch") {
    const [picked] = context.items(values.path);
    if (picked && has(picked, "path"))
      return {
        spine: { kind: "curve", spans: picked.spans },
        from: picked.id,
        nameOf: (number) => picked.spans[number]!.id,
      };
    const { item, profile } = sketchProfile(values.path, "Pick the sketch or the curve of the path.", context);
    const path = pathOf(profile.graph);
    if (!path)
      fail(
        "path-branches",
        `${context.nameOf(item.id)} is not one path: it branches, crosses itself, or is in several parts. Draw one line of curves.`,
        { step, bodies: [item.id] },
      );
    const spine: Spine = {
      kind: "drawn",
      frame: item.frame,
      places: profile.graph.places,
      stretches: stretchesOf(profile),
      path,
    };
    return { spine, from: item.id, nameOf: (number) => profile.graph.stretches[number]!.curve.id };
  }
  if (values.edges.length === 0) fail("nothing-picked", "Pick the edges of the path.", { step, field: "edges" });
  const found = values.edges.map((ref) => context.edge(ref));
  const { body } = found[0]!;
  if (found.some((other) => other.body !== body))
    fail("other-body", "The edges of a path have to be of one body. Pick edges of one.", { step });
  const chain = chainOf(body.shape, [...new Set(found.map(({ edge }) => edge))]);
  if (!chain)
    fail(
      "path-branches",
      `The picked edges of ${context.nameOf(body.id)} are not one path: they branch, or leave a gap.`,
      {
        step,
        bodies: [body.id],
      },
    );
  const names = new Map(found.map(({ edge }, i) => [edge, values.edges[i]!.edge ?? `edge${edge}`] as const));
  return { spine: { kind: "edges", shape: body.shape, chain }, from: body.id, nameOf: (number) => names.get(number)! };
}

/**
 * A bend has to be wider than what goes round it reaches towards its middle.
 * @param reach how far the section reaches from the path, mm, towards the inside of a bend. @throws SeamError
 */
export function refuseTight(
  { nameOf, from }: NamedSpine,
  bends: readonly Bend[],
  reach: (bend: Bend) => number,
  context: StepContext,
): void {
  for (const bend of bends) {
    const needs = reach(bend);
    if (bend.radius > needs + SAME_PLACE) continue;
    fail(
      "bend-tight",
      `The bend “${nameOf(bend.number)}” has a radius of ${formatLength(bend.radius)}, and the section needs more than ${formatLength(needs)} there. Make it wider, or the section smaller.`,
      { step: context.step, bodies: [from], at: [...bend.at] as [number, number, number] },
    );
  }
}

/** A body swept along a path. Its sides are named by the parts of the path, and of the section where that has several. */
export function sweptBody(
  { spine, from, nameOf }: NamedSpine,
  section: SweptSection,
  manner: SweepManner,
  { id, mark, sectionName }: { id: string; mark: string; sectionName?: (stretch: number) => string },
  context: StepContext,
): Body {
  const { step } = context;
  const made = sweepAlong(spine, section, manner);
  if (!made)
    fail(
      "sweep-crosses",
      "What is swept along this path runs into itself. Make the section smaller, the bends wider, or its turns less.",
      { step, bodies: [from] },
    );
  if (made.deviation > SAME_PLACE)
    context.warn({
      code: "sweep-approximate",
      message: `Its sides have no exact form: they are right to within ${formatDeviation(made.deviation)}.`,
      step,
    });
  const bases = made.faces.map((face) => {
    if (typeof face === "string") return `${step}:${mark}cap:${face}`;
    const side = sectionName ? `${sectionName(face.stretch)}:` : "";
    return `${step}:${mark}side:${side}${nameOf(face.along)}`;
  });
  const kind = manner.solid ? "solid" : "sheet";
  return {
    id,
    kind,
    shape: made.shape,
    faces: faceNamesOf(made.shape, bases),
    hint: { text: kind === "solid" ? "Bar" : "Sheet" },
  };
}

/** A body less what others take of it. All are freed. */
export function without(body: Body, inner: readonly Body[], context: StepContext): Body {
  if (inner.length === 0) return body;
  const division = divideEach(
    [body],
    inner.map((item) => ({ item, shape: item.shape, faces: item.faces })),
  );
  try {
    const kept = division.pieces.filter(({ sides }) => inner.every(({ id }) => sides[id] === "out"));
    const [joined, more] = joinPieces(division, kept);
    if (!joined || more)
      fail("sweep-crosses", "The holes of the section run out of its sides along this path.", { step: context.step });
    return { ...body, shape: joined.shape, faces: joined.faces };
  } finally {
    division.free();
    for (const { shape } of [body, ...inner]) freeShape(shape);
  }
}

/** How far points reach from where a path begins, towards the inside of each of its bends, mm. */
export function reachOf(spine: Spine, points: readonly (readonly [number, number, number])[]): (bend: Bend) => number {
  const { at, way, normal } = startOf(spine);
  const away = points.map((point) => sub(point, at));
  return ({ inwards, way: run }) => {
    if (!normal) return Math.max(...away.map((v) => Math.sqrt(Math.max(0, dot(v, v) - dot(v, way) ** 2))));
    // In a plane the section stays on its side of the path.
    const side = cross(normal, way);
    const turn = dot(cross(normal, run), inwards) > 0 ? 1 : -1;
    return Math.max(0, ...away.map((v) => turn * dot(v, side)));
  };
}

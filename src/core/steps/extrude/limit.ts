import { fail } from "../../errors";
import type { Body, Item, SketchItem, Workplane } from "../../items";
import { has } from "../../items/kinds";
import {
  allFaceFacts,
  boxOf,
  diagonal,
  dot,
  edgeNeighbourhoods,
  facesOf,
  freeShape,
  type PlaneFrame,
  type Shape,
  scale,
  sheetFromFaces,
  subshapePlanes,
  sweepEdges,
  tessellate,
  type Vec3,
} from "../../kernel";
import { baseName } from "../../naming";
import { divideEach, joinPieces, type Knife, type Piece } from "../../seam";
import { ALONG } from "../../tolerance";
import type { StepContext } from "../evaluation";
import { planeKnife } from "../seam/plane-knife";
import type { Plane } from "../shared/plane/planes";
import { otherPlane } from "../shared/plane/planes";
import type { ExtrudeValues } from "./values";

/** Cosine: a face that looks this little along the way stands square to it. Meshes of round faces tell no less. */
const LEVEL = 1e-3;

/** What an extrusion ends at. */
export interface Limit {
  /** What a person calls it. */
  name: string;
  /** An endless plane, where it is one. */
  plane: Plane | null;
  shapes: Shape[];
  /** What cuts bodies off there. The shapes belong to who frees them. */
  knives(bodies: readonly Body[]): { knives: Knife[]; owned: Shape[] };
}

/** What an extrusion ends at, as its values say. @throws SeamError when it is not picked. */
export function limitOf(values: ExtrudeValues, frame: PlaneFrame, context: StepContext): Limit {
  const { step } = context;
  const ofBodies = (bodies: readonly Body[], name: string): Limit => ({
    name,
    plane: null,
    shapes: bodies.map(({ shape }) => shape),
    knives: () => ({ knives: bodies.map((item) => ({ item, shape: item.shape, faces: item.faces })), owned: [] }),
  });
  if (values.extent === "next") {
    const all = context.all().filter((item): item is Body => has(item, "closed"));
    if (all.length === 0) fail("ends-nowhere", "No solid is there to end at. Give a distance.", { step });
    return ofBodies(all, all.length === 1 ? context.nameOf(all[0]!.id) : "Every solid");
  }
  if (values.to === "body") {
    const bodies = context.bodies(values.toBody);
    if (bodies.length === 0) fail("nothing-picked", "Pick the body to end at.", { step, field: "toBody" });
    return ofBodies(bodies, bodies.map(({ id }) => context.nameOf(id)).join(", "));
  }
  const ofPlane = (plane: Plane, id: string, name: string): Limit => {
    if (Math.abs(dot(plane.normal, frame.normal)) < ALONG)
      fail("ends-nowhere", `${name} stands square to the sketch, so nothing ends there. Pick another.`, { step });
    const item: Workplane = { id, kind: "workplane", ...plane, hint: { text: name } };
    const knives = (bodies: readonly Body[]) => {
      const owned: Shape[] = [];
      return { knives: [planeKnife(item, bodies, owned)], owned };
    };
    return { name, plane, shapes: [], knives };
  };
  if (values.to === "workplane") {
    const plane = otherPlane(values.toPlane, "Pick the workplane to end at.", context);
    const [item] = context.items(values.toPlane);
    return ofPlane({ origin: plane.origin, normal: plane.normal }, item!.id, context.nameOf(item!.id));
  }
  const ref = values.toFace[0] ?? fail("nothing-picked", "Pick the face to end at.", { step, field: "toFace" });
  const { body, face } = context.face(ref);
  const name = body.faces[face]!;
  const plane = subshapePlanes(body.shape)[face];
  if (plane) return { ...ofPlane(plane, `face:${name}`, "The face"), name: `A face of ${context.nameOf(body.id)}` };
  return {
    name: `A face of ${context.nameOf(body.id)}`,
    plane: null,
    shapes: [body.shape],
    knives() {
      const { shape } = sheetFromFaces(body.shape, [face]);
      const item: Item = { id: `face:${name}`, kind: "sheet", shape, faces: [name], hint: { text: "Face" } };
      return { knives: [{ item, shape, faces: [name] }], owned: [shape] };
    },
  };
}

/**
 * What was drawn out, as far as what it ends at: of its pieces those at the end that it began with. What lies in the
 * shadow of what it ends at is cut away too: a body in the way of a part of it does not let it round behind.
 * @param begin which of its caps that is. @throws SeamError where it runs past what it should end at.
 */
export function cutOff(
  bodies: readonly Body[],
  limit: Limit,
  begin: "base" | "end",
  item: SketchItem,
  context: StepContext,
): Body[] {
  const { step } = context;
  const way = scale(item.frame.normal, begin === "base" ? 1 : -1);
  const { knives, owned } = limit.knives(bodies);
  const cap = (end: string) => (piece: Piece) => piece.faces.some((name) => baseName(name) === `${step}:cap:${end}`);
  const [atStart, atEnd] = begin === "base" ? [cap("base"), cap("end")] : [cap("end"), cap("base")];
  const refuse = (why: string): never =>
    fail("ends-past", `${why} Extend it, or end at a workplane.`, { step, bodies: [item.id] });
  const divided = (body: Body, more: readonly Knife[]): Body => {
    const division = divideEach([body], [...knives, ...more]);
    try {
      const kept = division.pieces.filter(atStart);
      if (kept.length === 0 || kept.some(atEnd))
        refuse(`${limit.name} does not reach across the whole outline, so ${context.nameOf(item.id)} runs past it.`);
      const [joined, other] = joinPieces(division, kept);
      if (!joined || other) throw refuse(`What ends at ${limit.name} falls apart.`);
      const { shape, form } = joined;
      const made = { ...body, kind: form, shape, faces: joined.faces };
      const behind = more.length === 0 ? shadowed(made, step, way) : [];
      if (behind === null)
        throw refuse(`${limit.name} is in the way of a part of the outline, and it would go round behind.`);
      if (behind.length === 0) return made;
      const box = boxOf(body.shape)!;
      const curtain = sweepEdges(shape, behind, scale(way, 2 * diagonal(box)));
      if (!curtain) return made;
      owned.push(curtain);
      const faces = facesOf(curtain).map(() => `${step}:shadow`);
      const sheet: Item = { id: `${step}:shadow`, kind: "sheet", shape: curtain, faces, hint: { text: "Shadow" } };
      const again = divided(body, [{ item: sheet, shape: curtain, faces }]);
      freeShape(shape);
      return again;
    } finally {
      division.free();
    }
  };
  try {
    return bodies.map((body) => divided(body, []));
  } finally {
    for (const shape of owned) freeShape(shape);
    for (const { shape } of bodies) freeShape(shape);
  }
}

/**
 * The edges round the faces of a body that look back the way it came: what stands on them lies behind something. Null
 * where a curved face looks both ways, so that its edges do not tell.
 */
function shadowed({ shape, faces }: Body, step: string, way: Vec3): number[] | null {
  const facts = allFaceFacts(shape);
  const { normals, indices, faceRanges } = tessellate(shape, { linear: 0.5, angular: 0.3 });
  const slopesOf = (place: number): number[] => {
    const { kind, direction } = facts[place]!;
    if (kind === "plane" && direction) return [dot(direction, way)];
    const first = faceRanges[2 * place]!;
    return [...indices.subarray(first, first + faceRanges[2 * place + 1]!)].map((vertex) =>
      dot([normals[3 * vertex]!, normals[3 * vertex + 1]!, normals[3 * vertex + 2]!], way),
    );
  };
  const back = new Set<number>();
  for (const [place, name] of faces.entries()) {
    if (name.startsWith(`${step}:`)) continue;
    const slopes = slopesOf(place);
    if (slopes.every((slope) => slope > -LEVEL)) continue;
    if (slopes.some((slope) => slope > LEVEL)) return null;
    back.add(place);
  }
  return edgeNeighbourhoods(shape).edges.flatMap((edge, place) =>
    edge?.faces.some((face) => back.has(face)) ? [place] : [],
  );
}

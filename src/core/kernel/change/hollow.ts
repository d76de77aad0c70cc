import type { BRepOffset_Mode, GeomAbs_JoinType } from "replicad-opencascadejs";
import { tellStage } from "../../stage";
import { boxOf } from "../facts/box";
import { contains, distanceToPoint, normalNear } from "../facts/distance";
import { allEdgeFacts } from "../facts/edges";
import { areaOf, volumeOf } from "../facts/mass";
import { isValid, openEdges } from "../facts/measure";
import { pointOnFace } from "../facts/on-face";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import {
  freeShape,
  fromList,
  listOf,
  orientation,
  ownHandle,
  type Shape,
  ShapeMap,
  subshapes,
} from "../library/topology";
import { solidFromFaces } from "../make/solid-from-faces";
import { add, scale, type Vec3 } from "../space/vectors";

/** What a face of a hollowed body is: one it had, the other side of one, or the rim where one was left open. */
export interface HollowFace {
  is: "old" | "other-side" | "rim";
  /** The face of the body before, by place. */
  place: number;
}

export type Hollowed = { shape: Shape; faces: HollowFace[] } | { tight: { face: number; at: Vec3 }[] };

/**
 * Hollows a solid to walls of one thickness, mm: inwards, or outwards when `outward`. Faces in `open` are left open; with
 * none the hollow is a closed void.
 * @param where whether it is looked for where it fails; that takes time.
 * @returns the faces behind which there is too little, where it cannot be done.
 */
export function hollowOut(
  solid: Shape,
  open: readonly number[],
  thickness: number,
  outward: boolean,
  where = true,
): Hollowed {
  return scoped((scope) => {
    const oc = lib();
    const before = subshapes(scope, solid, "face");
    const refuse = (): Hollowed => ({ tight: outward || !where ? [] : tightFaces(solid, before, open, thickness) });
    const maker = scope.use(new oc.BRepOffsetAPI_MakeThickSolid());
    const closing = listOf(
      scope,
      open.map((place) => before[place]!),
    );
    try {
      tellStage("moving the walls inwards");
      maker.MakeThickSolidByJoin(
        solid,
        closing,
        outward ? thickness : -thickness,
        1e-6,
        "BRepOffset_Skin" as unknown as BRepOffset_Mode,
        false,
        false,
        "GeomAbs_Intersection" as unknown as GeomAbs_JoinType,
        false,
        scope.use(new oc.Message_ProgressRange()),
      );
    } catch (cause) {
      if (cause instanceof WebAssembly.RuntimeError) throw cause;
      return refuse();
    }
    if (!maker.IsDone()) return refuse();
    const result = scope.use(maker.Shape());
    const known = new ShapeMap<HollowFace>();
    let sides = 0;
    before.forEach((face, place) => {
      if (open.includes(place)) {
        for (const rim of fromList(scope, scope.use(maker.Modified(face)))) known.set(rim, { is: "rim", place });
        return;
      }
      known.set(face, { is: "old", place });
      for (const side of fromList(scope, scope.use(maker.Generated(face)))) {
        known.set(side, { is: "other-side", place });
        sides++;
      }
    });
    if (sides < before.length - open.length) return refuse();
    tellStage("weighing the walls");
    const made = subshapes(scope, result, "face");
    // Past a radius, or past the middle, the library turns a wall inside out instead of failing.
    const skin = skinOf(
      scope,
      before.filter((_, place) => !open.includes(place)),
    );
    for (const face of made) {
      if (known.get(face)?.is !== "other-side") continue;
      const place = pointOnFace(face);
      const gap = distanceToPoint(skin, place)?.gap ?? 0;
      if (contains(solid, place) === outward || gap < thickness * (1 - 1e-3) - 1e-6) return refuse();
    }
    const shape = open.length > 0 ? wholeOf(scope, result) : aroundVoid(before, made, volumeOf(result) < 0, outward);
    if (!shape || openEdges(shape).length > 0 || !isValid(shape)) {
      if (shape) freeShape(shape);
      return refuse();
    }
    if (!outward && !isWalls(solid, shape, open, thickness)) {
      freeShape(shape);
      return refuse();
    }
    return {
      shape,
      faces: subshapes(scope, shape, "face").map((face) => known.get(face) ?? { is: "rim", place: open[0] ?? 0 }),
    };
  });
}

/** Whether a body hollowed inwards is walls behind its closed faces and no more. @param open by place. */
export function isWalls(solid: Shape, hollowed: Shape, open: readonly number[], thickness: number): boolean {
  const [wall, all] = [volumeOf(hollowed), volumeOf(solid)];
  if (!(wall > 0 && wall < all)) return false;
  return scoped((scope) => {
    const closed = subshapes(scope, solid, "face").filter((_, place) => !open.includes(place));
    // More than this walls take up only round sharp hollow edges, and round bores that are narrower than they are thick.
    const area = closed.reduce((sum, face) => sum + areaOf(face), 0);
    const edges = allEdgeFacts(solid).reduce((sum, edge) => sum + (edge?.length ?? 0), 0);
    if (wall < 1.05 * thickness * area + thickness * thickness * edges) return true;
    return fillsOnlyWalls(solid, hollowed, skinOf(scope, closed), thickness);
  });
}

/** How deep material may lie behind the skin, in walls: at a hollow edge of a right angle it is the root of two. */
const DEEP = 1.6;
/** In how many places it is looked for, and in how many it may be: at sharper hollow edges. */
const LOOKS = 400;
const FEW = 0.03;

/**
 * Whether what is left of a hollowed body lies near its skin. The library has been seen to leave a part of the body full, closed
 * and valid, where two walls meet at a hollow edge.
 */
function fillsOnlyWalls(solid: Shape, hollowed: Shape, skin: Shape, thickness: number): boolean {
  const box = boxOf(solid);
  if (!box) return false;
  let [inside, deep] = [0, 0];
  for (let i = 1; i <= LOOKS; i++) {
    // Places spread evenly, always the same: the multiples of three roots (a Kronecker sequence).
    const at = ([Math.SQRT2, Math.sqrt(3), Math.sqrt(5)] as const).map(
      (root, axis) => box.min[axis]! + ((i * root) % 1) * (box.max[axis]! - box.min[axis]!),
    ) as unknown as Vec3;
    if (!contains(solid, at)) continue;
    inside++;
    if (contains(hollowed, at) && (distanceToPoint(skin, at)?.gap ?? 0) > DEEP * thickness) deep++;
  }
  return deep <= FEW * inside;
}

function skinOf(scope: Parameters<typeof subshapes>[0], faces: readonly Shape[]): Shape {
  const oc = lib();
  const skin = scope.use(new oc.TopoDS_Compound());
  const builder = scope.use(new oc.TopoDS_Builder());
  builder.MakeCompound(skin);
  for (const face of faces) builder.Add(skin, face);
  return skin;
}

function wholeOf(scope: Parameters<typeof subshapes>[0], result: Shape): Shape | null {
  const solids = subshapes(scope, result, "solid");
  if (solids.length !== 1) return null;
  return volumeOf(solids[0]!) < 0 ? solids[0]!.Reversed() : ownHandle(solids[0]!);
}

/** A solid of two skins: the outer one, and the inner one turned round. `inside` tells whether the other one came so. */
function aroundVoid(before: readonly Shape[], other: readonly Shape[], inside: boolean, outward: boolean): Shape {
  const signed = (faces: readonly Shape[], turn: 1 | -1) =>
    faces.map((shape) => ({ shape, sign: ((orientation(shape) === -1 ? -1 : 1) * turn) as 1 | -1 }));
  const way = inside ? -1 : 1;
  return solidFromFaces(
    outward ? [...signed(other, way), ...signed(before, -1)] : [...signed(before, 1), ...signed(other, -way as 1 | -1)],
  ).shape;
}

/** The faces behind which the material ends before both walls fit. */
function tightFaces(
  solid: Shape,
  faces: readonly Shape[],
  open: readonly number[],
  thickness: number,
): { face: number; at: Vec3 }[] {
  const ways = open.map((place) => faces[place]!);
  return faces.flatMap((face, place) => {
    if (open.includes(place)) return [];
    const at = pointOnFace(face);
    const inwards = scale(normalNear(face, at), -1);
    const deep = (by: number) => contains(solid, add(at, scale(inwards, by)));
    if (deep(2 * thickness)) return [];
    // Where the material ends at a face that is left open, one wall has to fit and not two.
    let [low, high] = [1e-6, 2 * thickness];
    for (let round = 0; round < 20; round++) {
      const middle = (low + high) / 2;
      if (deep(middle)) low = middle;
      else high = middle;
    }
    const exit = add(at, scale(inwards, high));
    const leaves = ways.some((way) => (distanceToPoint(way, exit)?.gap ?? 1) < 1e-3);
    return leaves && high > thickness ? [] : [{ face: place, at }];
  });
}

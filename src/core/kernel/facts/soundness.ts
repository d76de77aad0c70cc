import { KernelFault } from "../library/faults";
import { lib } from "../library/library";
import { asFault, scoped } from "../library/scope";
import { facesOf, freeShape, ownHandle, type Shape, shapeKind, subshapes } from "../library/topology";
import { type Mesh, triangulate } from "../mesh/tessellate";
import { skinFault, welded } from "../mesh/welded";
import type { Triangles } from "../space/nearest-hit";
import { add, cross, diagonal, dot, length, sub, type Vec3 } from "../space/vectors";
import { boxOf } from "./box";
import { areaOf, facesOut, formVolume, roughSkin, skinSums, volumeOf } from "./mass";
import { isValid, openPlaces } from "./measure";

/**
 * How coarse the triangles are that a skin is weighed with, as a part of its size, and in radians between neighbours. Where
 * they do not close, finer ones are asked: coarse ones can miss a sliver.
 */
const FINENESS = [
  [5e-3, 0.5],
  [5e-4, 0.2],
] as const;

/**
 * Whether all faces of each skin look to the same side, and not all skins inward: the areas of a closed skin, each along its normal, add up to nothing, whatever its shape is. The library's own check does not see a face that looks
 * to the wrong side with all that is round it.
 */
function facesOneWay(solid: Shape, seen: boolean): boolean {
  return (byClosedForms(solid) && (seen || isSeen(solid))) || FINENESS.some((fineness) => byTriangles(solid, fineness));
}

/** Whether every face has triangles: what nobody sees is not sound, however well it weighs. */
function isSeen(solid: Shape): boolean {
  const [linear, angular] = FINENESS[0];
  return showsAll(triangulate(solid, facesOf(solid), { linear: linear * sizeOf(solid), angular }));
}

/** Whether each of the faces that a mesh was asked for has triangles. */
export const showsAll = ({ faceRanges }: Pick<Mesh, "faceRanges">): boolean =>
  faceRanges.every((count, i) => i % 2 === 0 || count > 0);

const sizeOf = (solid: Shape): number => {
  const box = boxOf(solid);
  return box ? diagonal(box) : 1;
};

/** By the integrals that its volume is had by, too. Of several skins each has to be weighed by itself, which these are not. */
function byClosedForms(solid: Shape): boolean {
  const skins = scoped((scope) => subshapes(scope, solid, "shell").length);
  const sums = skins === 1 ? skinSums(solid) : null;
  return sums !== null && sums.volume >= 0 && length(sums.normal) <= BALANCE * sums.area;
}

function byTriangles(solid: Shape, [coarse, angular]: (typeof FINENESS)[number]): boolean {
  const size = sizeOf(solid);
  const skins = scoped((scope) =>
    subshapes(scope, solid, "shell").map((skin) => weighed(triangulate(skin, [], { linear: coarse * size, angular }))),
  );
  // A sliver's triangles may hold nothing that can be told: only what is plainly inside out counts.
  const insideOut = skins.every(({ volume, area }) => volume < -BALANCE * area * size);
  return !insideOut && skins.every(({ area, sum }) => length(sum) <= BALANCE * area);
}

/** How far the areas of a closed skin may be off nothing, as a part of them: its triangles share their corners to the last digit. */
const BALANCE = 1e-6;

/** The sum of the areas of triangles, with and without their directions, and the volume within, times six. */
function weighed({ positions, indices }: Triangles): { area: number; sum: Vec3; volume: number } {
  const corner = (i: number): Vec3 => {
    const at = indices[i]! * 3;
    return [positions[at]!, positions[at + 1]!, positions[at + 2]!];
  };
  let [area, volume, sum]: [number, number, Vec3] = [0, 0, [0, 0, 0]];
  const origin = indices.length > 0 ? corner(0) : ([0, 0, 0] as const);
  for (let t = 0; t < indices.length; t += 3) {
    const a = sub(corner(t), origin);
    const n = cross(sub(corner(t + 1), corner(t)), sub(corner(t + 2), corner(t)));
    area += length(n);
    volume += dot(a, n);
    sum = add(sum, n);
  }
  return { area, sum, volume };
}

/**
 * Whether the triangles of a solid close, each passed the other way round by its neighbours. A face of a turned body that looks to the wrong side
 * weighs as one that does not, and the library's own check does not see it: where its edges run against their neighbours', triangles show it.
 */
export function trianglesClose(solid: Shape): boolean {
  const size = sizeOf(solid);
  return FINENESS.some(
    ([coarse, angular]) => skinFault(welded(triangulate(solid, [], { linear: coarse * size, angular }))) !== "open",
  );
}

/** What is wrong with a body that came from elsewhere; null where nothing is. */
export type Unsoundness = "not-finite" | "invalid" | "open";

/** @param seen whether triangles that are at hand show every face of it: that is looked for where it is not known. */
export function unsoundness(shape: Shape, kind: "solid" | "sheet", seen = false): Unsoundness | null {
  const box = boxOf(shape);
  const solid = kind === "solid";
  const isNumber = (value: number) => Number.isFinite(value) && Math.abs(value) <= MOST;
  // Integrals over faces that are not sound may settle nowhere, which takes seconds to find out: as they are seen quickly will do for those.
  const rough = [solid ? (formVolume(shape, true) ?? 0) : 0, roughSkin(shape).area];
  if (!box || ![...rough, ...box.min, ...box.max].every(isNumber)) return "not-finite";
  if (solid && openPlaces(shape).length > 0) return "open";
  if (!isValid(shape) || (solid && !facesOneWay(shape, seen))) return "invalid";
  return isNumber(areaOf(shape)) && (!solid || isNumber(volumeOf(shape))) ? null : "not-finite";
}

/** mm, mm² and mm³: beyond it nothing is a measure any more. */
const MOST = 1e15;
/** Over gaps of this size, mm, faces are joined. */
const SEWING = 0.01;

/**
 * Tries to make a sound solid of one that is not: by the library's own repair of solids, then by joining its faces anew
 * over gaps of up to 0.01 mm. The new solid belongs to the caller; null where neither gives a closed and valid one.
 */
export function soundSolid(solid: Shape): { shape: Shape; sewn: number | null } | null {
  for (const sewn of [null, SEWING]) {
    try {
      const shape = sewn === null ? fixed(solid) : sewnTogether(solid, sewn);
      if (shape && volumeOf(shape) > 0 && unsoundness(shape, "solid") === null) return { shape, sewn };
      if (shape) freeShape(shape);
    } catch (cause) {
      const fault = asFault(cause);
      if (!(fault instanceof KernelFault) || fault.fatal) throw fault;
    }
  }
  return null;
}

function fixed(solid: Shape): Shape | null {
  return scoped((scope) => {
    const oc = lib();
    const work = scope.use(new oc.ShapeFix_Solid(scope.use(oc.TopoDS.Solid(solid))));
    work.Perform(scope.use(new oc.Message_ProgressRange()));
    const made = scope.use(work.Solid());
    if (made.IsNull()) return null;
    const [only, ...more] = subshapes(scope, made, "solid");
    return only && more.length === 0 ? rightSideOut(only) : null;
  });
}

function sewnTogether(solid: Shape, tolerance: number): Shape | null {
  return scoped((scope) => {
    const oc = lib();
    const sewing = scope.use(new oc.BRepBuilderAPI_Sewing(tolerance, true, true, true, false));
    for (const face of subshapes(scope, solid, "face")) sewing.Add(face);
    sewing.Perform(scope.use(new oc.Message_ProgressRange()));
    const made = scope.use(sewing.SewedShape());
    if (made.IsNull()) return null;
    const shells = subshapes(scope, made, "shell");
    if (shells.length !== 1) return null;
    const closed = scope.use(new oc.ShapeFix_Solid()).SolidFromShell(scope.use(oc.TopoDS.Shell(shells[0]!)));
    scope.use(closed);
    return shapeKind(closed) === "solid" ? rightSideOut(closed) : null;
  });
}

/** A handle of its own for a solid, turned so that its skin faces out. */
export function rightSideOut(solid: Shape): Shape {
  return facesOut(solid) ? ownHandle(solid) : solid.Reversed();
}

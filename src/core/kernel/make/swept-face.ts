import { volumeOf } from "../facts/mass";
import { KernelFault } from "../library/faults";
import { direction, point } from "../library/geometry";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import {
  compound,
  fromList,
  type Orientation,
  occurrences,
  orientation,
  ownHandle,
  type Shape,
  ShapeMap,
  subshapes,
} from "../library/topology";
import type { Vec3 } from "../space/vectors";
import { solidFromFaces } from "./solid-from-faces";

/** From so many radians on a turn is a whole one. */
const WHOLE = 2 * Math.PI - 1e-12;
/** Edges of faces of one body that were parted one by one meet to within this, mm. */
const SEWN = 1e-6;

/** What faces sweep that hang together: a solid, and of which of the faces each of its own comes, by place. */
export interface SweptPatch {
  shape: Shape;
  sources: number[];
}

/** A straight move, mm, or a turn about an axis, radians: all round from a whole turn on. */
export type FaceMove = { by: Vec3 } | { at: Vec3; axis: Vec3; angle: number };

/**
 * The solids that faces sweep when they move, one for all that hang together by their edges: so nothing within it has to be found out. No line
 * along the way, or circle about the axis, may meet the faces of one patch twice, and none of them may lie along the way.
 */
export function sweptPatches(faces: readonly Shape[], move: FaceMove): SweptPatch[] {
  // All round there is neither beginning nor end: each face draws a ring of its own.
  if ("angle" in move && Math.abs(move.angle) >= WHOLE) return faces.flatMap((face, i) => rings(face, i, move));
  return scoped((scope) => {
    const oc = lib();
    const sewing = scope.use(new oc.BRepBuilderAPI_Sewing(SEWN, true, true, true, false));
    for (const face of faces) sewing.Add(face);
    sewing.Perform(scope.use(new oc.Message_ProgressRange()));
    const own = faces.map((face) => scope.use(sewing.ModifiedSubShape(face)));
    const sewn = scope.use(sewing.SewedShape());
    const shells = subshapes(scope, sewn, "shell");
    const inShells = new ShapeMap<true>();
    for (const shell of shells) for (const face of subshapes(scope, shell, "face")) inShells.set(face, true);
    const lone = subshapes(scope, sewn, "face").filter((face) => !inShells.get(face));
    return [...shells, ...lone].map((patch) => sweptPatch(scope, patch, own, move));
  });
}

function rings(face: Shape, source: number, move: FaceMove): SweptPatch[] {
  return scoped((scope) =>
    subshapes(scope, scope.use(sweeping(scope, face, move).Shape()), "solid").map((solid) => {
      const shape = volumeOf(solid) < 0 ? solid.Reversed() : ownHandle(solid);
      return { shape, sources: subshapes(scope, shape, "face").map(() => source) };
    }),
  );
}

function sweptPatch(scope: Scope, patch: Shape, own: readonly Shape[], move: FaceMove): SweptPatch {
  const maker = sweeping(scope, patch, move);
  const places = new ShapeMap<number>();
  own.forEach((face, i) => {
    places.set(face, i);
  });
  /** Each face of the solids with the sources of those it is on: one within the patch is on two. */
  const found: { face: Shape; sign: Orientation; source: number; times: number }[] = [];
  const known = new ShapeMap<(typeof found)[number]>();
  for (const face of subshapes(scope, patch, "face")) {
    const source = places.get(face) ?? 0;
    for (const solid of solidsIn(scope, scope.use(maker.Generated(face)))) {
      const turned = volumeOf(solid) < 0 ? -1 : 1;
      for (const side of occurrences(scope, solid, "face")) {
        const before = known.get(side);
        if (before) {
          before.times++;
          continue;
        }
        const entry = { face: side, sign: (orientation(side) * turned) as Orientation, source, times: 1 };
        known.set(side, entry);
        found.push(entry);
      }
    }
  }
  const outer = found.filter(({ times }) => times === 1);
  if (outer.length === 0) throw new KernelFault("What a face draws on its way could not be made.", false);
  const { shape, order } = solidFromFaces(outer.map(({ face, sign }) => ({ shape: face, sign })));
  return { shape, sources: order.map((i) => outer[i]!.source) };
}

function solidsIn(scope: Scope, list: Parameters<typeof fromList>[1]): Shape[] {
  const shapes = fromList(scope, list);
  return shapes.length === 0 ? [] : subshapes(scope, scope.use(compound(shapes)), "solid");
}

function sweeping(scope: Scope, patch: Shape, move: FaceMove) {
  const oc = lib();
  if ("by" in move)
    return scope.use(new oc.BRepPrimAPI_MakePrism(patch, scope.use(new oc.gp_Vec(...move.by)), true, true));
  const about = scope.use(new oc.gp_Ax1(point(scope, move.at), direction(scope, move.axis)));
  return scope.use(
    Math.abs(move.angle) >= WHOLE
      ? new oc.BRepPrimAPI_MakeRevol(patch, about, true)
      : new oc.BRepPrimAPI_MakeRevol(patch, about, move.angle, true),
  );
}

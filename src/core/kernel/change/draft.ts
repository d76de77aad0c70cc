import { volumeOf } from "../facts/mass";
import { isValid, openPlaces, readPoint } from "../facts/measure";
import { direction, point } from "../library/geometry";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asFace, facesOf, freeShape, fromList, ownHandle, type Shape, ShapeMap, subshapes } from "../library/topology";
import { dot, type Vec3 } from "../space/vectors";
import type { Origin, Worked, WorkFault } from "./edge-work";

/** Where a draft begins: what lies in this plane stays as it is. */
export interface Neutral {
  at: Vec3;
  /** Unit vector: the way the material gets less, for a positive angle. */
  pull: Vec3;
}

/**
 * Tilts faces of a solid about where they meet the neutral plane, so that the material gets less along the pull, and all
 * that run smoothly on from them. Flat faces stay flat, cylinders become cones; other faces cannot be drafted.
 * @param angle radians. @returns the faces (by place) that are to blame, where it cannot be done.
 */
export function draftFaces(
  solid: Shape,
  places: readonly number[],
  { at, pull }: Neutral,
  angle: number,
): Worked | WorkFault {
  return scoped((scope) => {
    const oc = lib();
    const before = facesOf(solid);
    const way = direction(scope, pull);
    const plane = scope.use(new oc.gp_Pln(point(scope, at), way));
    const maker = scope.use(new oc.BRepOffsetAPI_DraftAngle(solid));
    for (const place of places) {
      maker.Add(asFace(scope, before[place]!), way, angle, plane, true);
      if (!maker.AddDone()) return { faulty: [place] };
    }
    try {
      maker.Build();
      if (!maker.IsDone()) return { faulty: [...places] };
    } catch (cause) {
      if (cause instanceof WebAssembly.RuntimeError) throw cause;
      return { faulty: [...places] };
    }
    const [result, more] = subshapes(scope, scope.use(maker.Shape()), "solid");
    if (!result || more) return { faulty: [...places] };
    const shape = ownHandle(result);
    const crossed = facesOf(shape).some((face) => pastApex(scope, face));
    if (crossed || openPlaces(shape).length > 0 || !isValid(shape) || volumeOf(shape) <= 0) {
      freeShape(shape);
      return { faulty: [...places] };
    }
    const origins = new ShapeMap<Origin>();
    before.forEach((face, place) => {
      const changed = fromList(scope, scope.use(maker.Modified(face)));
      for (const image of changed.length > 0 ? changed : [face]) origins.set(image, { from: "face", place });
    });
    // The library keeps the order of faces, also where it forgets which became which.
    const made = facesOf(shape);
    return {
      shape,
      origins: made.map(
        (face, place) => origins.get(face) ?? { from: "face", place: made.length === before.length ? place : -1 },
      ),
    };
  });
}

/** Whether a conical face runs on through its apex: there the library turns a body inside out without a word. */
function pastApex(scope: Scope, face: Shape): boolean {
  const surface = scope.use(new (lib().BRepAdaptor_Surface)(asFace(scope, face), true));
  if ((surface.GetType() as string) !== "GeomAbs_Cone") return false;
  const u = surface.FirstUParameter();
  // Round the axis a cone runs as fast as it is wide: on the other side of the apex, the other way.
  const [low, high] = [surface.FirstVParameter(), surface.LastVParameter()].map((v) =>
    readPoint(scope, surface.DN(u, v, 1, 0)),
  );
  return dot(low!, high!) < 0;
}

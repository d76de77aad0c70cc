import { distanceToPoint } from "../facts/distance";
import { pointOnFace } from "../facts/on-face";
import { KernelFault } from "../library/faults";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "../library/topology";

/** A sheet made from faces of another body, and for each of its faces the source face (by place) it came from. */
export interface MadeSheet {
  shape: Shape;
  sources: number[];
}

/** Copies faces of a body, by place, into a sheet of their own. */
export function sheetFromFaces(body: Shape, places: readonly number[]): MadeSheet {
  return scoped((scope) => {
    const faces = subshapes(scope, body, "face");
    return { shape: shellOf(places.map((place) => faces[place]!)), sources: [...places] };
  });
}

/**
 * Moves a sheet along its normals by `distance` mm (against them when negative); edges between faces stay sharp.
 * @throws KernelFault when the offset cannot be made, as where a radius is smaller than the distance.
 */
export function offsetSheet(sheet: MadeSheet, distance: number): MadeSheet {
  if (distance === 0) return { shape: ownHandle(sheet.shape), sources: sheet.sources };
  return scoped((scope) => {
    const oc = lib();
    const maker = scope.use(new oc.BRepOffsetAPI_MakeOffsetShape());
    const progress = scope.use(new oc.Message_ProgressRange());
    maker.PerformByJoin(
      sheet.shape,
      distance,
      1e-6,
      "BRepOffset_Skin" as never,
      false,
      false,
      "GeomAbs_Intersection" as never,
      false,
      progress,
    );
    if (!maker.IsDone()) throw new KernelFault("The offset sheet could not be made.", false);
    const result = scope.use(maker.Shape());
    const place = new ShapeMap<number>();
    subshapes(scope, sheet.shape, "face").forEach((face, i) => {
      const generated = scope.use(maker.Generated(face));
      if (generated.Size() > 0) place.set(scope.use(generated.First()), i);
    });
    const faces = subshapes(scope, result, "face");
    if (faces.length === 0)
      throw new KernelFault("The offset sheet vanished: the distance is larger than a radius of it.", false);
    // Past a radius the library turns the surface inside out instead of failing: it is then nearer than it should be.
    for (const face of faces) {
      const gap = distanceToPoint(sheet.shape, pointOnFace(face))?.gap ?? 0;
      if (gap < Math.abs(distance) * (1 - 1e-3) - 1e-6)
        throw new KernelFault("The offset sheet turns inside out: the distance is larger than a radius of it.", false);
    }
    return {
      shape: shellOf(faces),
      sources: faces.map((face) => sheet.sources[place.get(face) ?? 0]!),
    };
  });
}

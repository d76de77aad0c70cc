import type { TopoDS_Wire } from "replicad-opencascadejs";
import { distanceToPoint } from "../facts/distance";
import { volumeOf } from "../facts/mass";
import { edgePoint, isValid, openEdges } from "../facts/measure";
import { KernelFault } from "../library/faults";
import { point } from "../library/geometry";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, freeShape, ownHandle, type Shape, ShapeMap, shapeKind, subshapes } from "../library/topology";
import type { PlaneFrame } from "../space/plane-frame";
import type { Vec3 } from "../space/vectors";
import { withFlatFaces } from "./flat-faces";
import { type BoundaryStep, edgesOf, type PlanarStretch } from "./outline";

type Place = readonly [number, number];

/** A section of a loft: a closed outline in a plane, or a point that it runs out to. */
export type LoftSection = { point: Vec3 } | LoftOutline;

export interface LoftOutline {
  frame: PlaneFrame;
  places: readonly Place[];
  stretches: readonly PlanarStretch[];
  outline: readonly BoundaryStep[];
}

/** What a face of a loft is: a cap, or the side that an edge of a section (both by place) lies on. */
export type LoftFace = "base" | "end" | { section: number; stretch: number };

/**
 * The solid or sheet through sections, one after the other: straight between them, or smooth through all.
 * @param ring whether the last goes on to the first. @param asDrawn whether outlines meet from where each begins (all have as
 * many curves); otherwise the library finds where.
 */
export function loftThrough(
  sections: readonly LoftSection[],
  { solid, ruled, ring, asDrawn }: { solid: boolean; ruled: boolean; ring: boolean; asDrawn: boolean },
): { shape: Shape; faces: LoftFace[] } {
  return scoped((scope) => {
    const oc = lib();
    const maker = scope.use(new oc.BRepOffsetAPI_ThruSections(solid, ruled, 1e-6));
    let first: TopoDS_Wire | undefined;
    const middles: { at: Vec3; section: number; stretch: number }[] = [];
    sections.forEach((section, s) => {
      if ("point" in section) {
        const made = scope.use(new oc.BRepBuilderAPI_MakeVertex(point(scope, section.point)));
        maker.AddVertex(scope.use(made.Vertex()));
        return;
      }
      const edges = edgesOf(scope, section.frame, section.places, section.stretches);
      const wire = scope.use(new oc.BRepBuilderAPI_MakeWire());
      for (const { stretch, forwards } of section.outline) {
        const edge = edges[stretch]!;
        wire.Add(asEdge(scope, forwards ? edge : scope.use(edge.Reversed())));
        if (!wire.IsDone()) throw new KernelFault("An outline could not be joined up.", false);
        middles.push({ at: edgePoint(scope, edge, 0.5), section: s, stretch });
      }
      const made = scope.use(wire.Wire());
      first ??= made;
      maker.AddWire(made);
    });
    // The library makes a ring of what ends with the very wire that it began with.
    if (ring && first) maker.AddWire(first);
    maker.CheckCompatibility(!asDrawn);
    maker.Build(scope.use(new oc.Message_ProgressRange()));
    if (!maker.IsDone()) throw new KernelFault("The sections could not be joined up.", false);
    const whole = scope.use(maker.Shape());
    const result = solid ? subshapes(scope, whole, "solid")[0] : whole;
    if (!result || (solid && (openEdges(result).length > 0 || !isValid(result))))
      throw new KernelFault("The sections make no sound body.", false);
    const shape =
      solid && volumeOf(result) < 0
        ? result.Reversed()
        : shapeKind(result) === "compound"
          ? ownHandle(subshapes(scope, result, "shell")[0]!)
          : ownHandle(result);
    const plain = ruled ? withFlatFaces(shape) : null;
    const caps = new ShapeMap<"base" | "end">();
    if (solid && !ring) {
      const [base, last] = [scope.use(maker.FirstShape()), scope.use(maker.LastShape())];
      if (!base.IsNull() && shapeKind(base) === "face") caps.set(base, "base");
      if (!last.IsNull() && shapeKind(last) === "face") caps.set(last, "end");
    }
    const faces = subshapes(scope, shape, "face").map((face): LoftFace => {
      const cap = caps.get(face);
      if (cap) return cap;
      // Of the edges that lie on it, the one of the earliest section gives it its name.
      const on = middles.find(({ at }) => (distanceToPoint(face, at)?.gap ?? 1) < 1e-5);
      return on ? { section: on.section, stretch: on.stretch } : { section: 0, stretch: 0 };
    });
    // Named by the library's own faces, whose order the flat ones keep.
    if (plain) freeShape(shape);
    return { shape: plain ?? shape, faces };
  });
}

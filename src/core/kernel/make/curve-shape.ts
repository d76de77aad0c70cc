import { type CurveSpan, spanAt } from "../../curve/span";
import { KernelFault } from "../library/faults";
import { point } from "../library/geometry";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge, type Shape } from "../library/topology";
import { distance } from "../space/vectors";
import { splineCurve3 } from "./nurbs";

/** An edge for each span, those that follow each other sharing a vertex. They belong to the scope. */
export function edgesOfSpans(scope: Scope, spans: readonly CurveSpan[]): Shape[] {
  const oc = lib();
  const places = [...spans.map((span) => spanAt(span, 0)), spanAt(spans.at(-1)!, 1)];
  const vertices = places.map((at) =>
    scope.use(scope.use(new oc.BRepBuilderAPI_MakeVertex(point(scope, at))).Vertex()),
  );
  const closed = distance(places[0]!, places.at(-1)!) < 1e-9;
  const vertex = (i: number) => vertices[closed && i === spans.length ? 0 : i]!;
  return spans.map((span, i) => {
    const [a, b] = [vertex(i), vertex(i + 1)];
    const maker = scope.use(
      span.kind === "line"
        ? new oc.BRepBuilderAPI_MakeEdge(a, b)
        : new oc.BRepBuilderAPI_MakeEdge(splineCurve3(scope, span.poles, span.knots, span.degree), a, b, 0, 1),
    );
    if (!maker.IsDone()) throw new KernelFault("A part of a curve could not be made into an edge.", false);
    return scope.use(maker.Edge());
  });
}

/** A curve as one shape: its edges one after the other. It belongs to the caller. */
export function curveShape(spans: readonly CurveSpan[]): Shape {
  return scoped((scope) => {
    const maker = scope.use(new (lib().BRepBuilderAPI_MakeWire)());
    for (const edge of edgesOfSpans(scope, spans)) maker.Add(asEdge(scope, edge));
    if (!maker.IsDone()) throw new KernelFault("The parts of a curve could not be joined up.", false);
    return maker.Wire();
  });
}

import { derivativesOf } from "../binary/curve-at";
import type { Curve } from "../binary/curves";
import { edgeHandles, incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import type { Shape } from "../library/topology";
import { lengthBetween } from "../space/quadrature";

/**
 * How long an edge is, mm, by its place in a shape. The library integrates by a fixed number of points from knot to knot, and is off
 * by some thousandths where a spline turns sharply between two: here an interval is halved until it is right.
 */
export function edgeLengthAt(shape: Shape, place: number): number {
  const run = incidenceOf(shape).edges[place]!.curve;
  return (run && curveLength(run.curve, run.from, run.to)) ?? libraryLength(edgeHandles(shape)[place]!);
}

/** How long a curve is between two of its parameters; null where its numbers are not at hand. */
function curveLength(curve: Curve, from: number, to: number): number | null {
  if (curve.kind === "line") return Math.hypot(...curve.way) * (to - from);
  const run = derivativesOf(curve);
  if (!run) return null;
  const values = new Float64Array(9);
  const speed = (t: number) => {
    run.at(t, values);
    return Math.hypot(values[3]!, values[4]!, values[5]!);
  };
  return lengthBetween(speed, [from, ...run.breaks.filter((t) => t > from && t < to), to]);
}

function libraryLength(edge: Shape): number {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.LinearProperties(edge, properties, false, false);
    return properties.Mass();
  });
}

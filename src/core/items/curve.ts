import { type CurveSpan, curveEnds, isClosed, lengthOf, mappedSpan, spanPlaces } from "../curve/span";
import { mirroredPoint, placedPoint, type Vec3 } from "../kernel";
import { type Handling, type Known, PLAIN, type Told } from "./handling";

/** Curves in space, one after the other: a path, a centre line. Exact, as plain values. */
export interface CurveItem extends Known {
  kind: "curve";
  spans: CurveSpan[];
}

export interface CurveView extends Told {
  kind: "curve";
  /** Segments in space, xyz pairs: within a hundredth of what can be seen. */
  lines: number[];
  /** mm */
  length: number;
  closed: boolean;
  ends: [Vec3, Vec3];
  /** How many straight parts, and how many splines. */
  straight: number;
  splines: number;
}

export const curveHandling: Handling<CurveItem, CurveView> = {
  ...PLAIN,
  bytes: ({ spans }) => 200 * spans.length,
  restore: (stored) => ({ item: stored as CurveItem }),
  placed: (curve, placement) => ({
    ...curve,
    spans: curve.spans.map((span) => mappedSpan(span, (at) => placedPoint(at, placement))),
  }),
  mirrored: (curve, across) => ({
    ...curve,
    spans: curve.spans.map((span) => mappedSpan(span, (at) => mirroredPoint(at, [0, 0, 0], across))),
  }),
  view({ kind, spans }, { told }) {
    const long = lengthOf(spans);
    const straight = spans.filter((span) => span.kind === "line").length;
    return {
      ...told,
      kind,
      lines: spans.flatMap((span) => {
        const places = spanPlaces(span, long * 1e-3);
        return places.slice(1).flatMap((to, i) => [...places[i]!, ...to]);
      }),
      length: long,
      closed: isClosed(spans),
      ends: curveEnds(spans),
      straight,
      splines: spans.length - straight,
    };
  },
};

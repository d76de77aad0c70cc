import { distance, sub, type Vec3 } from "../kernel/space/vectors";
import { SAME_PLACE } from "../tolerance";
import type { CurveSpan } from "./span";
import { cubicThrough } from "./through";

/** A point that a curve goes through, and how it goes on from there to the next. */
export interface CurvePoint {
  id: string;
  at: Vec3;
  by: "line" | "spline";
}

/** Where points of a curve cannot be joined: the two that are one. */
export interface Fault {
  kind: "one-place";
  at: Vec3;
  points: [string, string];
}

/**
 * The spans of a curve through points: straight lines, and one smooth spline for all points in a row that are joined by splines.
 * @param closed whether the last is joined to the first. @param smooth splines leave straight lines in their direction.
 */
export function spansThrough(points: readonly CurvePoint[], closed: boolean, smooth: boolean): CurveSpan[] | Fault {
  const n = points.length;
  const joints = Array.from({ length: closed ? n : n - 1 }, (_, i) => ({ a: points[i]!, b: points[(i + 1) % n]! }));
  for (const { a, b } of joints)
    if (distance(a.at, b.at) < SAME_PLACE) return { kind: "one-place", at: b.at, points: [a.id, b.id] };
  if (closed && points.every(({ by }) => by === "spline"))
    return [
      spline(
        points[0]!.id,
        cubicThrough(
          points.map(({ at }) => at),
          { closed: true },
        ),
      ),
    ];
  // A closed curve begins at the first point that does not lie within a spline.
  const within = (i: number) => joints.at(i - 1)!.a.by === "spline" && joints[i]!.a.by === "spline";
  const first = closed ? joints.findIndex((_, i) => !within(i)) : 0;
  const order = joints.map((_, i) => joints[(first + i) % joints.length]!);
  const spans: CurveSpan[] = [];
  for (let i = 0; i < order.length; ) {
    const { a, b } = order[i]!;
    if (a.by === "line") {
      spans.push({ id: a.id, kind: "line", from: a.at, to: b.at });
      i++;
      continue;
    }
    let end = i;
    while (end < order.length && order[end]!.a.by === "spline") end++;
    const run = [...order.slice(i, end).map((joint) => joint.a.at), order[end - 1]!.b.at];
    const before = i > 0 ? order[i - 1] : closed ? order.at(-1) : undefined;
    const after = end < order.length ? order[end] : closed ? order[0] : undefined;
    const way = (joint: typeof before) => (smooth && joint?.a.by === "line" ? sub(joint.b.at, joint.a.at) : null);
    spans.push(spline(a.id, cubicThrough(run, { start: way(before), end: way(after) })));
    i = end;
  }
  return spans;
}

function spline(id: string, { poles, knots, degree }: ReturnType<typeof cubicThrough>): CurveSpan {
  return { id, kind: "spline", poles: poles as unknown as Vec3[], knots, degree };
}

import type { Geom_BSplineCurve } from "replicad-opencascadejs";
import { readPoint } from "../facts/measure";
import { KernelFault } from "../library/faults";
import { point } from "../library/geometry";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge } from "../library/topology";
import type { PlaneFrame } from "../space/plane-frame";
import { cross, distance, dot, length, scale, sub, type Vec3 } from "../space/vectors";
import { compatible, type Spline, splineOf, type Vec4 } from "./nurbs";
import { type BoundaryStep, edgesOf, type PlanarStretch } from "./outline";

/** Drawn curves, one after the other, that a skin is to follow along one of its corners. */
export interface SkinGuide {
  frame: PlaneFrame;
  places: readonly (readonly [number, number])[];
  stretches: readonly PlanarStretch[];
  steps: readonly BoundaryStep[];
}

/** Part of one curve of a guide, between two neighbouring sections; in fractions of the curve as it runs on. */
export interface GuidePiece extends Omit<SkinGuide, "steps"> {
  step: BoundaryStep;
  from: number;
  to: number;
}

/** Where a guide runs: along which corner, from which section on, with a piece up to each next one. */
export interface GuideCourse {
  corner: number;
  first: number;
  pieces: GuidePiece[];
}

/** Why a guide cannot be followed: its ends are at no corner; it passes a section beside; its curves join between two. */
export type GuideTrouble =
  | { why: "ends"; at: Vec3 }
  | { why: "beside"; section: number; at: Vec3 }
  | { why: "joint"; section: number };

/** Nearer than this, mm, and a guide runs through a corner. */
const AT_CORNER = 1e-4;

const near = (a: Vec3, b: Vec3) => distance(a, b) < AT_CORNER;

/** Finds the corner that a guide runs along. @param corners for each section, its corners, matched by place. */
export function courseOf(guide: SkinGuide, corners: readonly (readonly Vec3[])[]): GuideCourse | GuideTrouble {
  return scoped((scope) => {
    const curves = curvesOf(scope, guide, guide.steps);
    const ends = [startOf(scope, curves[0]!), endOf(scope, curves.at(-1)!)] as const;
    for (const [corner] of corners[0]!.entries())
      for (const backwards of [false, true]) {
        const [start, end] = backwards ? [ends[1], ends[0]] : ends;
        const first = corners.findIndex((list) => near(list[corner]!, start));
        const last = corners.findIndex((list, s) => s > first && near(list[corner]!, end));
        if (first < 0 || last < 0) continue;
        const steps = backwards
          ? [...guide.steps].reverse().map(({ stretch, forwards }) => ({ stretch, forwards: !forwards }))
          : guide.steps;
        return along(scope, { ...guide, steps }, corners.map((list) => list[corner]!).slice(first, last + 1), {
          corner,
          first,
        });
      }
    return { why: "ends", at: ends[0] };
  });
}

function curvesOf(
  scope: Scope,
  { frame, places, stretches }: Omit<SkinGuide, "steps">,
  steps: readonly BoundaryStep[],
): Geom_BSplineCurve[] {
  const edges = edgesOf(scope, frame, places, stretches);
  return steps.map(({ stretch, forwards }) => splineOf(scope, asEdge(scope, edges[stretch]!), forwards));
}

const valueAt = (scope: Scope, curve: Geom_BSplineCurve, t: number): Vec3 => readPoint(scope, curve.EvalD0(t));
const slopeAt = (scope: Scope, curve: Geom_BSplineCurve, t: number): Vec3 => readPoint(scope, curve.EvalDN(t, 1));
const startOf = (scope: Scope, curve: Geom_BSplineCurve) => valueAt(scope, curve, 0);
const endOf = (scope: Scope, curve: Geom_BSplineCurve) => valueAt(scope, curve, 1);

/** The pieces of a guide that begins and ends right, between the corners that it has to run through. */
function along(
  scope: Scope,
  guide: SkinGuide,
  through: readonly Vec3[],
  { corner, first }: { corner: number; first: number },
): GuideCourse | GuideTrouble {
  const { steps, ...drawn } = guide;
  const curves = curvesOf(scope, guide, steps);
  // A place on the guide: the number of its curve, and the fraction of that which is behind.
  const places: number[] = [0];
  for (const [s, at] of through.entries()) {
    if (s === 0) continue;
    const last = s === through.length - 1;
    const place = last ? curves.length : placeOf(scope, curves, at);
    if (place === null || place <= places.at(-1)! + 1e-9) return { why: "beside", section: first + s, at };
    places.push(place);
  }
  const pieces: GuidePiece[] = [];
  for (let s = 0; s + 1 < places.length; s++) {
    const [from, to] = [places[s]!, places[s + 1]!];
    const step = Math.floor(from + 1e-9);
    if (to > step + 1 + 1e-9) return { why: "joint", section: first + s };
    pieces.push({ ...drawn, step: steps[step]!, from: Math.max(from - step, 0), to: Math.min(to - step, 1) });
  }
  return { corner, first, pieces };
}

/** Samples to each curve before its nearest place is closed in on. */
const SAMPLES = 200;

/** Where a point lies on curves that run on from each other; null when it lies beside them. */
function placeOf(scope: Scope, curves: readonly Geom_BSplineCurve[], at: Vec3): number | null {
  for (const [k, curve] of curves.entries()) {
    let best = 0;
    for (let i = 1; i <= SAMPLES; i++)
      if (distance(valueAt(scope, curve, i / SAMPLES), at) < distance(valueAt(scope, curve, best), at))
        best = i / SAMPLES;
    // Newton's method for the foot of the perpendicular.
    for (let round = 0; round < 30; round++) {
      const slope = slopeAt(scope, curve, best);
      const step = dot(sub(at, valueAt(scope, curve, best)), slope) / Math.max(dot(slope, slope), 1e-30);
      best = Math.min(Math.max(best + step, 0), 1);
      if (Math.abs(step) < 1e-14) break;
    }
    if (near(valueAt(scope, curve, best), at)) return k + best;
  }
  return null;
}

/** How far the skin's parameter runs between sections, so that guides of one curve are followed as they run. */
export function spansAlong(courses: readonly (readonly GuidePiece[] | null)[]): number[] | null {
  const whole = courses.flatMap((pieces) => (pieces && isOneCurve(pieces) ? [pieces] : []));
  if (whole.length === 0) return null;
  return whole[0]!.map((_, s) => whole.reduce((sum, pieces) => sum + pieces[s]!.to - pieces[s]!.from, 0));
}

const isOneCurve = (pieces: readonly GuidePiece[]) =>
  pieces.every(({ step, frame }) => step.stretch === pieces[0]!.step.stretch && frame === pieces[0]!.frame);

/** A guide as one spline over the skin's parameter, and the sections (by place) at which it turns a corner. */
export interface Rail {
  spline: Spline;
  breaks: number[];
}

/** Smaller than this, radians, and two pieces of a guide run on smoothly. */
const SMOOTH = 1e-5;

/**
 * The guide along one corner. Where it runs on smoothly from piece to piece, so does its parameter: one piece is run
 * faster towards the section, the other slower, so that the skin has no crease there.
 * @param spans how far the parameter runs between sections.
 */
export function railOf(scope: Scope, pieces: readonly GuidePiece[], spans: readonly number[]): Rail {
  const total = spans.reduce((sum, span) => sum + span, 0);
  const curves = pieces.map((piece) => curvesOf(scope, piece, [piece.step])[0]!);
  const velocity = (s: number, end: 0 | 1): Vec3 => {
    const { from, to } = pieces[s]!;
    return scale(slopeAt(scope, curves[s]!, end === 0 ? from : to), ((to - from) * total) / spans[s]!);
  };
  const pace = pieces.map((): [number, number] => [1, 1]);
  const breaks: number[] = [];
  for (let s = 1; s < pieces.length; s++) {
    const [before, after] = [velocity(s - 1, 1), velocity(s, 0)];
    const [a, b] = [length(before), length(after)];
    const turn = Math.atan2(length(cross(before, after)), dot(before, after));
    const common = Math.sqrt(a * b);
    // Beyond three times its mean pace a cubic would run back and forth.
    if (turn > SMOOTH || Math.max(common / a, common / b) > 3) breaks.push(s);
    else {
      pace[s - 1]![1] = common / a;
      pace[s]![0] = common / b;
    }
  }
  const splines = pieces.map(({ from, to }, s) => paced(scope, curves[s]!, from, to, pace[s]!));
  return { spline: chained(compatibleDegrees(scope, splines), spans), breaks };
}

/** Part of a curve, run at its own pace, or quicker or slower at its ends. */
function paced(
  scope: Scope,
  curve: Geom_BSplineCurve,
  from: number,
  to: number,
  [first, last]: readonly [number, number],
): Geom_BSplineCurve {
  const even = Math.abs(first - 1) < 1e-9 && Math.abs(last - 1) < 1e-9;
  if (!even || curve.IsRational()) {
    // The cubic from 0 to 1 with the given slopes at its ends (Hermite's form).
    const run = (w: number) => (3 - 2 * w) * w * w + first * w * (1 - w) ** 2 - last * w * w * (1 - w);
    return throughPoints(scope, (w) => valueAt(scope, curve, from + (to - from) * run(w)), [
      scale(slopeAt(scope, curve, from), (to - from) * first),
      scale(slopeAt(scope, curve, to), (to - from) * last),
    ]);
  }
  if (from > 0 || to < 1) curve.Segment(from, to, 1e-9);
  return curve;
}

/** So many points that a cubic through them is off by less than the kernel's tolerance. */
const POINTS = 128;

/**
 * A plain cubic over 0 to 1 through points of a smooth curve. Of an arc of radius R over an angle φ it is off by about
 * R (φ / 128)⁴ / 384: a nanometre for a quarter of 100 mm.
 */
function throughPoints(scope: Scope, at: (w: number) => Vec3, slopes: readonly [Vec3, Vec3]): Geom_BSplineCurve {
  const oc = lib();
  const list = scope.use(new oc.NCollection_Array1_gp_Pnt(1, POINTS + 1));
  const params = scope.use(new oc.NCollection_Array1_double(1, POINTS + 1));
  for (let i = 0; i <= POINTS; i++) {
    list.SetValue(i + 1, point(scope, at(i / POINTS)));
    params.SetValue(i + 1, i / POINTS);
  }
  const points = scope.use(new oc.NCollection_HArray1_gp_Pnt(list));
  const places = scope.use(new oc.NCollection_HArray1_double(params));
  const through = scope.use(new oc.GeomAPI_Interpolate(points, places, false, 1e-9));
  const [first, last] = slopes.map((slope) => scope.use(new oc.gp_Vec(...slope)));
  through.Load(first!, last!, false);
  through.Perform();
  if (!through.IsDone()) throw new KernelFault("A guide could not be followed.", false);
  return scope.use(through.Curve());
}

/** Splines of one degree, each by its data, with knots from 0 to 1. */
function compatibleDegrees(scope: Scope, splines: readonly Geom_BSplineCurve[]): Spline[] {
  const degree = Math.max(...splines.map((spline) => spline.Degree()));
  return splines.map((spline) => {
    if (spline.Degree() < degree) spline.IncreaseDegree(degree);
    const [data] = compatible(scope, [spline]);
    const { knots } = data!;
    const [from, to] = [knots[0]!, knots.at(-1)!];
    return { ...data!, knots: knots.map((knot) => (knot - from) / (to - from)) };
  });
}

/** Splines that run on from each other as one over 0 to 1, each over its share. */
function chained(splines: readonly Spline[], spans: readonly number[]): Spline {
  const total = spans.reduce((sum, span) => sum + span, 0);
  const { degree } = splines[0]!;
  const chain: Spline = { degree, knots: [0], mults: [degree + 1], poles: [splines[0]!.poles[0]!] };
  let at = 0;
  splines.forEach(({ knots, mults, poles }, s) => {
    const share = spans[s]! / total;
    knots.forEach((knot, k) => {
      if (k === 0) return;
      chain.knots.push(at + knot * share);
      chain.mults.push(k < knots.length - 1 ? mults[k]! : s < splines.length - 1 ? degree : degree + 1);
    });
    chain.poles.push(...poles.slice(1).map((pole): Vec4 => [...pole]));
    at += share;
  });
  chain.knots[chain.knots.length - 1] = 1;
  return chain;
}

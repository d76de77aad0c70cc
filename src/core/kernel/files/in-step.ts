import { type Curve, PATCH_NUMBERS, type Patch, patchOfAny, pointsOf, structureOf } from "../binary";
import { noSpans } from "../binary/contents";
import type { SplineData } from "../binary/spline-data";
import { rewritten, writeCurve, writeSpline2 } from "../binary/write";
import { isValid } from "../facts/measure";
import { greatest, lookedAt, looksAlong, nearest, type Run, runOf } from "../facts/off-face";
import { recordOf, shapeOfRecord } from "../library/incidence";
import { freeShape, type Shape } from "../library/topology";
import { distance, dot } from "../space/vectors";

/** mm: what the library takes for one place. */
const CONFUSION = 1e-7;
/** mm: from here on an image is said to be out of step. */
const OUT = 1e-6;
/** Of how many stretches a new image is made at most. */
const MOST_SPANS = 256;

/**
 * The library reads a file without images of its edges by making them, and where an edge follows a line of a free face's own
 * net it takes that line as it is: in the right place, but not in step with the edge – half-way along the one is not half-way
 * along the other – though it notes that they are to 1e-7 mm. A division then cuts the image in another place than the edge
 * (0.03 mm were seen). And it notes 1e-7 where an edge lies farther off its face.
 *
 * And it makes lines that run along a face's parameter but for the last digit: such a face was seen to have no triangles.
 *
 * Here images out of step are made anew, in step; lines along a parameter run along it; and edges that lie off their faces are
 * noted with how far they do.
 * @returns a handle of the caller's own; null where nothing was to be done, or it would not be sound.
 */
export function broughtInStep(shape: Shape): Shape | null {
  const record = recordOf(shape);
  const spans = noSpans();
  const { faces, edges, vertices } = structureOf(record, spans);
  const tolerances = new Map<number, number>();
  const images = new Map<Curve, Uint8Array>();
  const seen = new Set<Curve>();
  for (const face of faces) {
    const patch = face.surface && patchOfAny(face.surface);
    if (!patch) continue;
    for (const use of face.wires.flat()) {
      const edge = edges[use.edge]!;
      const image = face.image(use);
      if (edge.point || !edge.curve || !image || seen.has(image.curve)) continue;
      seen.add(image.curve);
      const straight = straightened(image.curve);
      if (straight) images.set(image.curve, writeCurve(straight));
      const run = runOf(edge.curve, image, patch);
      if (!run) continue;
      const { byParameter, apart } = lookedAt(run);
      if (!Number.isFinite(byParameter)) continue;
      let off = byParameter;
      if (byParameter > OUT && byParameter > 2 * apart) {
        const made = inStep(run, patch, apart);
        if (made) {
          images.set(image.curve, writeSpline2(made.spline));
          off = made.off;
        }
      }
      if (off <= Math.max(OUT, edge.tolerance)) continue;
      const noted = 1.05 * off;
      for (const [place, now] of [
        [edge.toleranceAt, edge.tolerance],
        ...edge.vertices.map((v) => [vertices[v]!.toleranceAt, vertices[v]!.tolerance] as const),
      ] as const)
        tolerances.set(place, Math.max(tolerances.get(place) ?? now, noted));
    }
  }
  if (images.size + tolerances.size === 0) return null;
  const view = new DataView(record.buffer, record.byteOffset, record.byteLength);
  for (const [place, value] of tolerances) view.setFloat64(place, value, true);
  const made = shapeOfRecord(
    rewritten(
      record,
      [...images].map(([image, bytes]) => [spans.curves.get(image)!, bytes] as const),
    ),
  );
  if (isValid(made) || !isValid(shape)) return made;
  freeShape(made);
  return null;
}

/** A line along a parameter but for rounding, as one along it; null for any other curve. */
function straightened(curve: Curve): Extract<Curve, { kind: "line" }> | null {
  if (curve.kind !== "line") return null;
  const way = curve.way.map((value) => (Math.abs(value) < ROUNDING ? 0 : value));
  if (way.every((value, i) => value === curve.way[i])) return null;
  return { ...curve, way: way.map((value) => (value === 0 ? 0 : Math.sign(value))) };
}

/** Of a unit direction: what is less is the rounding of what it was worked out from. */
const ROUNDING = 1e-12;

/**
 * An image along the same line in step with the edge: of degree five through as many places as it takes, with the slopes and
 * the second derivatives that it has there (Hermite), until between them it is off by no more than the edge is from the face.
 * It is broken where the face's net, or the old image, is not smooth.
 * @param apart how far that is, mm.
 */
function inStep(run: Run, patch: Patch, apart: number): { spline: SplineData; off: number } | null {
  const numbers = new Float64Array(PATCH_NUMBERS);
  const ends = parted(
    run.breaks(patch).map((s) => nearest(run.inSpace, run.onFace(s).at, s, [run.from, run.to])),
    run,
  );
  let best: { spline: SplineData; off: number } | null = null;
  for (let parts = 1; !best || (ends.length + 1) * parts <= MOST_SPANS; parts *= 2) {
    const stops = [run.from, ...ends, run.to].flatMap((end, i, all) =>
      i === 0 ? [end] : Array.from({ length: parts }, (_, k) => all[i - 1]! + ((end - all[i - 1]!) * (k + 1)) / parts),
    );
    const spans = stops.slice(1).map((to, i) => bezier(run, stops[i]!, to));
    if (!spans.every((span) => span !== null)) return best;
    const spline = chained(spans, stops);
    const point = pointsOf({ kind: "spline", digest: "", spline: () => spline })!;
    const offAt = (t: number) => {
      const { at } = point(t);
      patch.at(at[0]!, at[1]!, numbers);
      return distance(run.inSpace(t).at, [numbers[0]!, numbers[1]!, numbers[2]!]);
    };
    const off = greatest(looksAlong(run.from, run.to, [...stops, ...run.looks]), offAt);
    if (!best || off < best.off) best = { spline, off };
    if (off <= Math.max(CONFUSION / 2, 1.01 * apart)) return best;
  }
  return best;
}

/** Of an edge's whole run: breaks that are nearer to each other, or to an end, are one. */
const NEAR = 1e-4;

/** Places along an edge in order, without those that are too near to another for a knot. */
function parted(places: readonly number[], { from, to }: Run): number[] {
  const least = NEAR * (to - from);
  const kept: number[] = [];
  for (const t of [...places].sort((a, b) => a - b))
    if (t - (kept.at(-1) ?? from) > least && to - t > least) kept.push(t);
  return kept;
}

type Pair = readonly [number, number];

/** Of a stretch, how far within its ends slopes are looked at, and how far from there for how they change. */
const WITHIN = 1e-6;
const BESIDE = 1e-3;

/** The six poles of a stretch of an image in step; null where that runs back on itself. */
function bezier(run: Run, from: number, to: number): Pair[] | null {
  const h = to - from;
  const along = (t: number) => {
    const edge = run.inSpace(t);
    const s = t === run.from || t === run.to ? t : nearest(run.onFace, edge.at, t, [run.from, run.to]);
    const { slope, uv, uvSlope } = run.onFace(s);
    // How fast the one has to be run along for the other: both have one tangent where they are one line.
    const pace = dot(edge.slope, slope) / dot(slope, slope);
    return { s, uv, slope: [uvSlope[0]! * pace, uvSlope[1]! * pace] as Pair };
  };
  const end = (t: number, way: 1 | -1) => {
    const [own, near, far] = [WITHIN, WITHIN + BESIDE, WITHIN + 2 * BESIDE].map(
      (share) => along(t + way * share * h).slope,
    );
    const bend = [0, 1].map((k) => (way * (-3 * own![k]! + 4 * near![k]! - far![k]!)) / (2 * BESIDE * h));
    const { s, uv } = along(t);
    const first = [0, 1].map((k) => uv[k]! + (way * h * (own![k]! - way * WITHIN * h * bend[k]!)) / 5);
    const second = [0, 1].map((k) => 2 * first[k]! - uv[k]! + (h * h * bend[k]!) / 20);
    return { s, poles: [uv, first, second] as unknown as Pair[] };
  };
  const [start, stop] = [end(from, 1), end(to, -1)];
  const poles = [...start.poles, ...stop.poles.reverse()];
  return start.s < stop.s && poles.flat().every(Number.isFinite) ? poles : null;
}

/** Of what slopes are, how far those on both sides of a place may differ for being one. */
const SMOOTH = 1e-7;

/** One spline of stretches; where one goes on as the one before it ends, it does so smoothly by its knots, too. */
function chained(spans: readonly (readonly Pair[])[], stops: readonly number[]): SplineData {
  const poles: Pair[] = [spans[0]![0]!];
  const knots = Array<number>(6).fill(stops[0]!);
  spans.forEach((span, i) => {
    poles.push(...span.slice(1, 5));
    const next = spans[i + 1];
    const [joint, to] = [span[5]!, stops[i + 1]!];
    if (!next) {
      poles.push(joint);
      knots.push(...Array<number>(6).fill(to));
      return;
    }
    const [before, after] = [to - stops[i]!, stops[i + 2]! - to];
    const rates = [0, 1].map((k): Pair => [(joint[k]! - span[4]![k]!) / before, (next[1]![k]! - joint[k]!) / after]);
    const rate = Math.max(...rates.flat().map(Math.abs));
    const smooth = rates.every(([one, other]) => Math.abs(one - other) <= SMOOTH * rate);
    if (!smooth) poles.push(joint);
    knots.push(...Array<number>(smooth ? 4 : 5).fill(to));
  });
  return { degree: 5, poles: poles.map((pole) => [...pole]), weights: null, knots, periodic: false };
}

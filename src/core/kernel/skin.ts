import type { Geom_BSplineCurve, TopoDS_Edge } from "replicad-opencascadejs";
import { KernelFault } from "./faults";
import { lib } from "./library";
import type { LoftFace, LoftOutline } from "./loft";
import { volumeOf } from "./mass";
import { isValid, openPlaces } from "./measure";
import { type BoundaryStep, edgesOf, type PlanarStretch, type PlaneFrame, planarFace } from "./outline";
import { point } from "./primitives";
import { type Scope, scoped } from "./scope";
import { cornersOf } from "./section-match";
import { asEdge, facesOf, freeShape, ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "./topology";
import { add, distance, dot, scale, sub, type Vec3 } from "./vectors";

/** How a skin leaves its first section and comes to its last: square to their planes, so strongly (mm), or freely (null). */
export interface SkinEnds {
  start: number | null;
  end: number | null;
}

/** A curve that a skin follows from a corner of one section to the same corner of the next. */
export interface SkinGuide {
  frame: PlaneFrame;
  places: readonly (readonly [number, number])[];
  stretches: readonly PlanarStretch[];
  /** The one curve of it, as it runs from the first section on. */
  step: BoundaryStep;
}

type Vec4 = [number, number, number, number];

/** A spline by its data: poles times their weights, with the weights. */
interface Spline {
  degree: number;
  knots: number[];
  mults: number[];
  poles: Vec4[];
}

/**
 * The smooth skin through sections with matching curves (`matchOutlines`), exact at each section: between them, cubic in
 * the poles. Where it follows guides, their difference to its own corner lines is added, spread evenly over each face.
 * @param guides for each corner, the curve that it follows; two sections then.
 */
export function skinThrough(
  sections: readonly LoftOutline[],
  ends: SkinEnds,
  guides: readonly (SkinGuide | null)[],
  solid: boolean,
): { shape: Shape; faces: LoftFace[] } {
  return scoped((scope) => {
    const oc = lib();
    const count = sections[0]!.outline.length;
    const edges = sections.map(({ frame, places, stretches }) => edgesOf(scope, frame, places, stretches));
    const tangents = endTangents(sections, ends);
    const spans = spansOf(sections);
    const faces: Shape[] = [];
    for (let side = 0; side < count; side++) {
      const rows = compatible(
        scope,
        sections.map(({ outline }, s) => {
          const { stretch, forwards } = outline[side]!;
          return splineOf(scope, asEdge(scope, edges[s]![stretch]!), forwards);
        }),
      );
      const columns = rows[0]!.poles.map((_, u) =>
        columnOf(
          rows.map(({ poles }) => poles[u]!),
          spans,
          tangents,
        ),
      );
      const rails = [guides[side], guides[(side + 1) % count]].map((guide) => (guide ? guideOf(scope, guide) : null));
      const own = [columns[0]!, columns.at(-1)!];
      // Columns, their corner lines and the guides get one set of knots along the skin.
      const all = compatible(
        scope,
        [...columns, ...own, ...rails.map((rail, i) => rail ?? own[i]!)].map((spline) => curveOf(scope, spline)),
      );
      const [grown, rest] = [all.slice(0, columns.length), all.slice(columns.length)];
      const greville = grevilleOf(rows[0]!);
      const poles = grown.map(({ poles: column }, u) =>
        column.map((pole, v): Vec4 => {
          const share = greville[u]!;
          const off = [0, 1, 2].map(
            (k) =>
              (1 - share) * (rest[2]!.poles[v]![k]! - rest[0]!.poles[v]![k]!) +
              share * (rest[3]!.poles[v]![k]! - rest[1]!.poles[v]![k]!),
          );
          return [pole[0] + off[0]!, pole[1] + off[1]!, pole[2] + off[2]!, pole[3]];
        }),
      );
      faces.push(surfaceFace(scope, poles, rows[0]!, grown[0]!));
    }
    const caps = solid
      ? [0, sections.length - 1].map((s) => planarFace(scope, sections[s]!.frame, edges[s]!, sections[s]!.outline, []))
      : [];
    const sewing = scope.use(new oc.BRepBuilderAPI_Sewing(1e-6, true, true, true, false));
    for (const face of [...faces, ...caps]) sewing.Add(face);
    sewing.Perform(scope.use(new oc.Message_ProgressRange()));
    const sewn = scope.use(sewing.SewedShape());
    const shells = subshapes(scope, sewn, "shell");
    const shape = solid ? solidOf(scope, shells) : shellOf(subshapes(scope, sewn, "face"));
    if (!isValid(shape) || (solid && openPlaces(shape).length > 0)) {
      freeShape(shape);
      throw new KernelFault("The sections make no sound skin.", false);
    }
    const known = new ShapeMap<LoftFace>();
    const note = (face: Shape, is: LoftFace): void => {
      known.set(scope.use(sewing.ModifiedSubShape(face)), is);
    };
    for (const [side, face] of faces.entries())
      note(face, { section: 0, stretch: sections[0]!.outline[side]!.stretch });
    for (const [i, cap] of caps.entries()) note(cap, i === 0 ? "base" : "end");
    return { shape, faces: facesOf(shape).map((face) => known.get(face) ?? { section: 0, stretch: 0 }) };
  });
}

function solidOf(scope: Scope, shells: readonly Shape[]): Shape {
  const oc = lib();
  if (shells.length !== 1) throw new KernelFault("The sections make no closed skin.", false);
  const maker = scope.use(new oc.BRepBuilderAPI_MakeSolid(oc.TopoDS.Shell(shells[0]!)));
  const solid = scope.use(maker.Solid());
  return volumeOf(solid) < 0 ? solid.Reversed() : ownHandle(solid);
}

/** The mean distance between corners of neighbouring sections: how far the skin's parameter runs there. */
function spansOf(sections: readonly LoftOutline[]): number[] {
  const corners = sections.map(cornersOf);
  return corners
    .slice(1)
    .map((list, s) => list.reduce((sum, at, i) => sum + distance(at, corners[s]![i]!), 0) / list.length);
}

/** The directions in which the skin leaves its first section and comes to its last, each as long as asked for. */
function endTangents(sections: readonly LoftOutline[], { start, end }: SkinEnds): [Vec3 | null, Vec3 | null] {
  const middle = (section: LoftOutline): Vec3 => {
    const corners = cornersOf(section);
    return scale(
      corners.reduce((a, b) => add(a, b)),
      1 / corners.length,
    );
  };
  const along = (from: LoftOutline, to: LoftOutline, at: LoftOutline, reach: number): Vec3 => {
    const way = sub(middle(to), middle(from));
    return scale(at.frame.normal, reach * (dot(way, at.frame.normal) < 0 ? -1 : 1));
  };
  const [first, second] = sections;
  const [beforeLast, last] = sections.slice(-2);
  return [
    start === null ? null : along(first!, second!, first!, start),
    end === null ? null : along(beforeLast!, last!, last!, end),
  ];
}

const combine = (...terms: [Vec4, number][]): Vec4 =>
  [0, 1, 2, 3].map((k) => terms.reduce((sum, [pole, share]) => sum + pole[k]! * share, 0)) as Vec4;

/** A pole's way through the sections: cubic pieces that join smoothly, in the poles' homogeneous coordinates. */
function columnOf(rows: readonly Vec4[], spans: readonly number[], [start, end]: [Vec3 | null, Vec3 | null]): Spline {
  const last = rows.length - 1;
  const inner = rows.map((_, s): Vec4 => {
    if (s === 0 || s === last) return [0, 0, 0, 0];
    const both = spans[s - 1]! + spans[s]!;
    return combine([rows[s + 1]!, 1 / both], [rows[s - 1]!, -1 / both]);
  });
  // A square end has a length of its own; a free one bends no more than it has to.
  const square = (way: Vec3, { 3: weight }: Vec4, span: number): Vec4 => [
    (way[0] * weight) / span,
    (way[1] * weight) / span,
    (way[2] * weight) / span,
    0,
  ];
  const free = (from: Vec4, to: Vec4, span: number, other: Vec4 | null): Vec4 =>
    other ? combine([to, 1.5 / span], [from, -1.5 / span], [other, -0.5]) : combine([to, 1 / span], [from, -1 / span]);
  const [firstSpan, lastSpan] = [spans[0]!, spans.at(-1)!];
  const given = {
    first: start && square(start, rows[0]!, firstSpan),
    last: end && square(end, rows[last]!, lastSpan),
  };
  const slopes = [...inner];
  slopes[0] = given.first ?? free(rows[0]!, rows[1]!, firstSpan, last > 1 ? inner[1]! : given.last);
  slopes[last] = given.last ?? free(rows[last - 1]!, rows[last]!, lastSpan, last > 1 ? inner[last - 1]! : given.first);
  const poles: Vec4[] = [rows[0]!];
  spans.forEach((span, s) => {
    poles.push(
      combine([rows[s]!, 1], [slopes[s]!, span / 3]),
      combine([rows[s + 1]!, 1], [slopes[s + 1]!, -span / 3]),
      rows[s + 1]!,
    );
  });
  const total = spans.reduce((a, b) => a + b, 0);
  const knots = [0];
  for (const span of spans) knots.push(knots.at(-1)! + span / total);
  return { degree: 3, knots, mults: knots.map((_, k) => (k === 0 || k === knots.length - 1 ? 4 : 3)), poles };
}

/** A guide's own curve, run from the first section to the second. */
function guideOf(scope: Scope, { frame, places, stretches, step }: SkinGuide): Spline {
  const edges = edgesOf(scope, frame, places, stretches);
  const curve = splineOf(scope, asEdge(scope, edges[step.stretch]!), step.forwards);
  const [spline] = compatible(scope, [curve.IsRational() ? withoutWeights(scope, curve) : curve]);
  return spline!;
}

/** So many points that a cubic through them is off by less than the kernel's tolerance. */
const POINTS = 128;

/**
 * A rational curve as a plain cubic through points of it. Of an arc of radius R over an angle φ it is off by about
 * R (φ / 128)⁴ / 384: a nanometre for a quarter of 100 mm.
 */
function withoutWeights(scope: Scope, curve: Geom_BSplineCurve): Geom_BSplineCurve {
  const oc = lib();
  const list = scope.use(new oc.NCollection_Array1_gp_Pnt(1, POINTS + 1));
  const params = scope.use(new oc.NCollection_Array1_double(1, POINTS + 1));
  for (let i = 0; i <= POINTS; i++) {
    list.SetValue(i + 1, scope.use(curve.EvalD0(i / POINTS)));
    params.SetValue(i + 1, i / POINTS);
  }
  const points = scope.use(new oc.NCollection_HArray1_gp_Pnt(list));
  const at = scope.use(new oc.NCollection_HArray1_double(params));
  const through = scope.use(new oc.GeomAPI_Interpolate(points, at, false, 1e-9));
  through.Load(scope.use(curve.EvalDN(0, 1)), scope.use(curve.EvalDN(1, 1)), false);
  through.Perform();
  if (!through.IsDone()) throw new KernelFault("A guide could not be followed.", false);
  return scope.use(through.Curve());
}

/** An edge's curve as a spline over 0 to 1. */
function splineOf(scope: Scope, edge: TopoDS_Edge, forwards: boolean): Geom_BSplineCurve {
  const oc = lib();
  const { returnValue, First, Last } = oc.BRep_Tool.Curve(edge, 0, 0);
  const whole = scope.use(returnValue);
  const trimmed = scope.use(new oc.Geom_TrimmedCurve(whole, First, Last, true, true));
  const spline = scope.use(oc.GeomConvert.CurveToBSplineCurve(trimmed));
  if (spline.IsPeriodic()) spline.SetNotPeriodic();
  if (!forwards) spline.Reverse();
  const [from, to] = [spline.FirstParameter(), spline.LastParameter()];
  const knots = scope.use(new oc.NCollection_Array1_double(1, spline.NbKnots()));
  for (let k = 1; k <= spline.NbKnots(); k++) knots.SetValue(k, (spline.Knot(k) - from) / (to - from));
  spline.SetKnots(knots);
  return spline;
}

function curveOf(scope: Scope, { degree, knots, mults, poles }: Spline): Geom_BSplineCurve {
  const oc = lib();
  const { points, weights } = polesFor(scope, poles);
  const [values, counts] = knotsFor(scope, knots, mults);
  return scope.use(new oc.Geom_BSplineCurve(points, weights, values, counts, degree, false, false));
}

function polesFor(scope: Scope, poles: readonly Vec4[]) {
  const oc = lib();
  const points = scope.use(new oc.NCollection_Array1_gp_Pnt(1, poles.length));
  const weights = scope.use(new oc.NCollection_Array1_double(1, poles.length));
  poles.forEach(([x, y, z, w], i) => {
    points.SetValue(i + 1, point(scope, [x / w, y / w, z / w]));
    weights.SetValue(i + 1, w);
  });
  return { points, weights };
}

function knotsFor(scope: Scope, knots: readonly number[], mults: readonly number[]) {
  const oc = lib();
  const values = scope.use(new oc.NCollection_Array1_double(1, knots.length));
  const counts = scope.use(new oc.NCollection_Array1_int(1, mults.length));
  knots.forEach((knot, i) => {
    values.SetValue(i + 1, knot);
    counts.SetValue(i + 1, mults[i]!);
  });
  return [values, counts] as const;
}

/** Splines over 0 to 1 with one degree and one set of knots: their curves stay what they are. */
function compatible(scope: Scope, splines: readonly Geom_BSplineCurve[]): Spline[] {
  const degree = Math.max(...splines.map((spline) => spline.Degree()));
  for (const spline of splines) if (spline.Degree() < degree) spline.IncreaseDegree(degree);
  const inner = new Map<number, number>();
  const knotOf = (value: number) => [...inner.keys()].find((known) => Math.abs(known - value) < 1e-9) ?? value;
  for (const spline of splines)
    for (let k = 2; k < spline.NbKnots(); k++) {
      const knot = knotOf(spline.Knot(k));
      inner.set(knot, Math.max(inner.get(knot) ?? 0, spline.Multiplicity(k)));
    }
  const sorted = [...inner].sort(([a], [b]) => a - b);
  for (const spline of splines) for (const [knot, mult] of sorted) spline.InsertKnot(knot, mult, 1e-9, false);
  return splines.map((spline): Spline => {
    const poles = Array.from({ length: spline.NbPoles() }, (_, i): Vec4 => {
      const at = scope.use(spline.Pole(i + 1));
      const w = spline.Weight(i + 1);
      return [at.X() * w, at.Y() * w, at.Z() * w, w];
    });
    const places = Array.from({ length: spline.NbKnots() }, (_, k) => k + 1);
    return {
      degree,
      knots: places.map((k) => spline.Knot(k)),
      mults: places.map((k) => spline.Multiplicity(k)),
      poles,
    };
  });
}

/** Where each pole of a spline stands in its parameter: what is linear in the parameter is linear in these. */
function grevilleOf({ degree, knots, mults }: Spline): number[] {
  const flat = knots.flatMap((knot, k) => Array.from({ length: mults[k]! }, () => knot));
  return Array.from(
    { length: flat.length - degree - 1 },
    (_, i) => flat.slice(i + 1, i + 1 + degree).reduce((sum, knot) => sum + knot, 0) / degree,
  );
}

/** The face of a spline surface: poles by column (along the sections) and row. */
function surfaceFace(scope: Scope, poles: readonly (readonly Vec4[])[], u: Spline, v: Spline): Shape {
  const oc = lib();
  const [us, vs] = [poles.length, poles[0]!.length];
  const points = scope.use(new oc.NCollection_Array2_gp_Pnt(1, us, 1, vs));
  const weights = scope.use(new oc.NCollection_Array2_double(1, us, 1, vs));
  poles.forEach((column, i) => {
    column.forEach(([x, y, z, w], j) => {
      points.SetValue(i + 1, j + 1, point(scope, [x / w, y / w, z / w]));
      weights.SetValue(i + 1, j + 1, w);
    });
  });
  const [uKnots, uMults] = knotsFor(scope, u.knots, u.mults);
  const [vKnots, vMults] = knotsFor(scope, v.knots, v.mults);
  const surface = scope.use(
    new oc.Geom_BSplineSurface(points, weights, uKnots, vKnots, uMults, vMults, u.degree, v.degree, false, false),
  );
  const maker = scope.use(new oc.BRepBuilderAPI_MakeFace(surface, 1e-7));
  if (!maker.IsDone()) throw new KernelFault("A side of the skin could not be made.", false);
  return scope.use(maker.Face());
}

import type { Geom_BSplineCurve, TopoDS_Edge } from "replicad-opencascadejs";
import { KernelFault } from "../library/faults";
import { point } from "../library/geometry";
import { lib } from "../library/library";
import type { Scope } from "../library/scope";
import type { Shape } from "../library/topology";
import type { Vec3 } from "../space/vectors";

/** A spline through space without weights, by its poles and its knots in full. It belongs to the scope. */
export function splineCurve3(
  scope: Scope,
  poles: readonly Vec3[],
  knots: readonly number[],
  degree: number,
): Geom_BSplineCurve {
  const points = scope.use(new (lib().NCollection_Array1_gp_Pnt)(1, poles.length));
  poles.forEach((at, i) => {
    points.SetValue(i + 1, point(scope, at));
  });
  const distinct = [...new Set(knots)];
  const [values, counts] = knotsFor(
    scope,
    distinct,
    distinct.map((knot) => knots.filter((other) => other === knot).length),
  );
  return scope.use(new (lib().Geom_BSplineCurve)(points, values, counts, degree, false));
}

/** A pole in homogeneous coordinates: its place times its weight, and the weight. */
export type Vec4 = [number, number, number, number];

/** A spline by its data: poles times their weights, with the weights. */
export interface Spline {
  degree: number;
  knots: number[];
  mults: number[];
  poles: Vec4[];
}

/** An edge's curve as a spline over 0 to 1. */
export function splineOf(scope: Scope, edge: TopoDS_Edge, forwards: boolean): Geom_BSplineCurve {
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

export function curveOf(scope: Scope, { degree, knots, mults, poles }: Spline): Geom_BSplineCurve {
  const oc = lib();
  const { points, weights } = polesFor(scope, poles);
  const [values, counts] = knotsFor(scope, knots, mults);
  return scope.use(new oc.Geom_BSplineCurve(points, weights, values, counts, degree, false, false));
}

export function polesFor(scope: Scope, poles: readonly Vec4[]) {
  const oc = lib();
  const points = scope.use(new oc.NCollection_Array1_gp_Pnt(1, poles.length));
  const weights = scope.use(new oc.NCollection_Array1_double(1, poles.length));
  poles.forEach(([x, y, z, w], i) => {
    points.SetValue(i + 1, point(scope, [x / w, y / w, z / w]));
    weights.SetValue(i + 1, w);
  });
  return { points, weights };
}

export function knotsFor(scope: Scope, knots: readonly number[], mults: readonly number[]) {
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
export function compatible(scope: Scope, splines: readonly Geom_BSplineCurve[]): Spline[] {
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
export function grevilleOf({ degree, knots, mults }: Spline): number[] {
  const flat = knots.flatMap((knot, k) => Array.from({ length: mults[k]! }, () => knot));
  return Array.from(
    { length: flat.length - degree - 1 },
    (_, i) => flat.slice(i + 1, i + 1 + degree).reduce((sum, knot) => sum + knot, 0) / degree,
  );
}

/** The face of a spline surface: poles by column (along the sections) and row. */
export function surfaceFace(
  scope: Scope,
  poles: readonly (readonly Vec4[])[],
  u: Omit<Spline, "poles">,
  v: Omit<Spline, "poles">,
): Shape {
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
  if (!maker.IsDone()) throw new KernelFault("A spline surface could not be made.", false);
  return scope.use(maker.Face());
}

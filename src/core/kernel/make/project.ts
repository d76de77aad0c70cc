import { readPoint } from "../facts/measure";
import { point } from "../library/geometry";
import { edgeHandles } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge, facesOf, type Shape, ShapeMap, subshapes } from "../library/topology";
import type { PlaneFrame } from "../space/plane-frame";
import { cross, dot, scale, sub, type Vec3 } from "../space/vectors";
import { conicOf, segment } from "./conic";
import type { PlanarCurve } from "./outline";

type Place = readonly [number, number];

/** An edge as it lies in a plane: exactly, or through points where there is no exact form, with how far off it may be. */
export type ProjectedEdge =
  | { exact: true; curve: PlanarCurve }
  | { exact: false; points: Place[]; closed: boolean; deviation: number };

/** Shorter than this, mm, a projection is a point. */
const LEAST = 1e-7;

/**
 * The edges of a shape seen square to a plane, in the order of `subshapes(shape, "edge")`; null for one that is seen as
 * a point. Lines, circles, ellipses and polynomial splines stay exact: the image of a conic under a projection is a conic,
 * that of a spline has the images of its poles.
 *
 * @param places which edges, by number.
 */
export function projectEdges(shape: Shape, places: readonly number[], frame: PlaneFrame): (ProjectedEdge | null)[] {
  const edges = edgeHandles(shape);
  return places.map((place) => projectEdge(edges[place]!, frame));
}

/** The curves in which a plane cuts the faces of a body, with the face (by place) that each lies on. */
export function sectionCurves(shape: Shape, frame: PlaneFrame): { face: number; curve: ProjectedEdge }[] {
  return scoped((scope) => {
    const oc = lib();
    const plane = scope.use(new oc.gp_Pln(point(scope, frame.origin), scope.use(new oc.gp_Dir(...frame.normal))));
    const section = scope.use(new oc.BRepAlgoAPI_Section(shape, plane, false));
    section.Approximation(true);
    section.Build();
    const numbers = new ShapeMap<number>();
    facesOf(shape).forEach((face, i) => {
      numbers.set(face, i);
    });
    const ancestor = scope.use(new oc.TopoDS_Face());
    return subshapes(scope, scope.use(section.Shape()), "edge").flatMap((edge) => {
      const curve = projectEdge(edge, frame);
      if (!curve) return [];
      const face = section.HasAncestorFaceOn1(edge, ancestor) ? (numbers.get(ancestor) ?? 0) : 0;
      return [{ face, curve }];
    });
  });
}

function projectEdge(shape: Shape, frame: PlaneFrame): ProjectedEdge | null {
  return scoped((scope) => {
    const oc = lib();
    const edge = asEdge(scope, shape);
    if (oc.BRep_Tool.Degenerated(edge)) return null;
    const curve = scope.use(new oc.BRepAdaptor_Curve(edge));
    const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
    const y = cross(frame.normal, frame.x);
    const flat = (v: Vec3): Place => [dot(v, frame.x), dot(v, y)];
    const seen = (at: Vec3): Place => flat(sub(at, frame.origin));
    const at = (t: number): Place => seen(readPoint(scope, curve.Value(t)));
    const type = curve.GetType() as string;
    if (type === "GeomAbs_Line") return exactly(segment(at(first), at(last)));
    if (type === "GeomAbs_Circle" || type === "GeomAbs_Ellipse") {
      const conic = scope.use(type === "GeomAbs_Circle" ? curve.Circle() : curve.Ellipse());
      const radii = "Radius" in conic ? [conic.Radius(), conic.Radius()] : [conic.MajorRadius(), conic.MinorRadius()];
      const axis = (a: { Direction(): Parameters<typeof readPoint>[1]; delete(): void }, size: number) =>
        flat(scale(readPoint(scope, scope.use(a).Direction()), size));
      const found = conicOf(
        seen(readPoint(scope, conic.Location())),
        axis(conic.XAxis(), radii[0]!),
        axis(conic.YAxis(), radii[1]!),
        first,
        last,
      );
      return exactly(found);
    }
    if (type === "GeomAbs_BSplineCurve" || type === "GeomAbs_BezierCurve") {
      const exact = splineFrom(scope, edge, seen);
      if (exact) return exact;
    }
    return sampled(at, first, last);
  });
}

const exactly = (curve: PlanarCurve | null): ProjectedEdge | null => curve && { exact: true, curve };

/** The stretch of a polynomial spline that an edge lies on; null for a rational one. */
function splineFrom(scope: Scope, edge: ReturnType<typeof asEdge>, seen: (at: Vec3) => Place): ProjectedEdge | null {
  const oc = lib();
  const whole = oc.BRep_Tool.Curve(edge, 0, 0);
  const base = scope.use(whole.returnValue);
  const trimmed = scope.use(new oc.Geom_TrimmedCurve(base, whole.First, whole.Last, true, true));
  const spline = scope.use(oc.GeomConvert.CurveToBSplineCurve(trimmed));
  if (spline.IsPeriodic()) spline.SetNotPeriodic();
  if (spline.IsRational()) return null;
  const points = Array.from({ length: spline.NbPoles() }, (_, i) => seen(readPoint(scope, spline.Pole(i + 1))));
  const [low, high] = [spline.Knot(1), spline.Knot(spline.NbKnots())];
  const knots = Array.from({ length: spline.NbKnots() }, (_, i) =>
    Array<number>(spline.Multiplicity(i + 1)).fill((spline.Knot(i + 1) - low) / (high - low)),
  ).flat();
  return { exact: true, curve: { kind: "spline", poles: { points, knots, degree: spline.Degree() } } };
}

/** Points along a curve that has no exact form here, so close that a spline through them deviates by little. */
function sampled(at: (t: number) => Place, first: number, last: number): ProjectedEdge | null {
  const COUNT = 96;
  const points = Array.from({ length: COUNT + 1 }, (_, i) => at(first + ((last - first) * i) / COUNT));
  const closed = Math.hypot(points[COUNT]![0] - points[0]![0], points[COUNT]![1] - points[0]![1]) < 1e-6;
  if (closed) points.pop();
  const reach = Math.max(...points.map(([x, y]) => Math.hypot(x - points[0]![0], y - points[0]![1])));
  if (reach < LEAST) return null;
  // Twice as many points show how far half of them let a cubic through four neighbours stray.
  let deviation = 0;
  for (let i = 1; i + 2 <= COUNT - 1; i++) {
    const middle = at(first + ((last - first) * (i + 0.5)) / COUNT);
    const cubic = [0, 1].map(
      (k) => (-points[i - 1]![k]! + 9 * points[i]![k]! + 9 * points[i + 1]![k]! - points[i + 2]![k]!) / 16,
    );
    deviation = Math.max(deviation, Math.hypot(middle[0] - cubic[0]!, middle[1] - cubic[1]!));
  }
  return { exact: false, points, closed, deviation };
}

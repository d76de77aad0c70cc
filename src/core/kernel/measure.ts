import type { Bnd_Box } from "replicad-opencascadejs";
import { edgeHandles, incidenceOf } from "./incidence";
import { lib } from "./library";
import { type Scope, scoped } from "./scope";
import { asEdge, asFace, facesOf, occurrences, orientation, type Shape } from "./topology";
import { type Box, cross, dot, sub, type Vec3 } from "./vectors";

type Point = { X(): number; Y(): number; Z(): number; delete(): void };
export function readPoint(scope: Scope, point: Point): Vec3 {
  scope.use(point);
  return [point.X(), point.Y(), point.Z()];
}

/** Relative accuracy asked of the integration over faces that are not elementary. */
const ACCURACY = 1e-9;

/**
 * Volume in mm³, from the exact faces (adaptive Gauss–Kronrod integration; the library's other adaptive integration was
 * seen to be off by 2e-4 where splines bound flat faces). Positive for a solid that is right side out.
 */
export function volumeOf(shape: Shape): number {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.VolumePropertiesGK(shape, properties, ACCURACY, false, true, false, false, false);
    return properties.Mass();
  });
}

/** Area in mm², from the exact faces. */
export function areaOf(shape: Shape): number {
  return scoped((scope) =>
    occurrences(scope, shape, "face").reduce((sum, face) => {
      const plane = planeOf(face);
      if (plane) return sum + (hasFreeEdge(scope, face) ? flatArea(face, plane) : outlinedArea(scope, face, plane));
      const properties = scope.use(new (lib().GProp_GProps)());
      lib().BRepGProp.SurfaceProperties(face, properties, ACCURACY, false);
      return sum + properties.Mass();
    }, 0),
  );
}

/**
 * The area of a flat face whose edges are straight or round, from its outline alone: half the integral of p × dp along
 * it (Green's theorem), which an arc of radius r about c adds c × (p₁ − p₀) + r²·(t₁ − t₀) to.
 */
function outlinedArea(scope: Scope, face: Shape, { origin, normal }: { origin: Vec3; normal: Vec3 }): number {
  const oc = lib();
  const twice = occurrences(scope, face, "edge").reduce((sum, edge) => {
    const way = orientation(edge);
    if (way === 0) return sum;
    const curve = scope.use(new oc.BRepAdaptor_Curve(asEdge(scope, edge)));
    const [from, to] = [curve.FirstParameter(), curve.LastParameter()];
    const [a, b] = [readPoint(scope, curve.Value(from)), readPoint(scope, curve.Value(to))];
    if ((curve.GetType() as string) === "GeomAbs_Line")
      return sum + way * dot(cross(sub(a, origin), sub(b, a)), normal);
    const circle = scope.use(curve.Circle());
    const centre = readPoint(scope, circle.Location());
    const axis = readPoint(scope, scope.use(circle.Axis()).Direction());
    const turn = circle.Radius() ** 2 * (to - from) * dot(axis, normal);
    return sum + way * (dot(cross(sub(centre, origin), sub(b, a)), normal) + turn);
  }, 0);
  return Math.abs(twice) / 2;
}

/** Whether an edge of a face is neither straight nor round: there the library's area of a flat face is off by 1e-5. */
function hasFreeEdge(scope: Scope, face: Shape): boolean {
  const oc = lib();
  return occurrences(scope, face, "edge").some((edge) => {
    const curve = scope.use(new oc.BRepAdaptor_Curve(asEdge(scope, edge)));
    return !/Line|Circle/.test(curve.GetType() as string);
  });
}

/**
 * A flat face's area as the volume between it and a plane 1 mm away, which the library integrates adaptively. The face
 * is moved to lie 1 mm over the origin, since the library takes the height of a plane elsewhere with the wrong sign.
 */
function flatArea(face: Shape, { origin, normal }: { origin: Vec3; normal: Vec3 }): number {
  return scoped((scope) => {
    const oc = lib();
    const shift = scope.use(new oc.gp_Trsf());
    shift.SetTranslation(scope.use(new oc.gp_Vec(normal[0] - origin[0], normal[1] - origin[1], normal[2] - origin[2])));
    const moved = scope.use(face.Moved(scope.use(new oc.TopLoc_Location(shift)), false));
    const away = scope.use(new oc.gp_Pln(scope.use(new oc.gp_Pnt(0, 0, 0)), scope.use(new oc.gp_Dir(...normal))));
    const properties = scope.use(new oc.GProp_GProps());
    oc.BRepGProp.VolumePropertiesGK(moved, properties, away, ACCURACY, false, true, false, false, false);
    return Math.abs(properties.Mass());
  });
}

/** Volume by one fixed Gauss integration: fast, and on trimmed curved faces good to about a thousandth. */
export function quickVolume(shape: Shape): number {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.VolumeProperties(shape, properties, false, false, false);
    return properties.Mass();
  });
}

/** Area by one fixed Gauss integration. */
export function quickArea(shape: Shape): number {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.SurfaceProperties(shape, properties, false, false);
    return properties.Mass();
  });
}

/**
 * Area of one face, to a hundredth or better, by the cheapest way for its kind: on a part of a sphere the adaptive
 * integration takes a third of the time of the fixed one; on other surfaces it is the other way round.
 */
export function roughArea(face: Shape): number {
  return scoped((scope) => {
    const oc = lib();
    const surface = scope.use(new oc.BRepAdaptor_Surface(asFace(scope, face), false));
    const properties = scope.use(new oc.GProp_GProps());
    if ((surface.GetType() as string) === "GeomAbs_Sphere")
      oc.BRepGProp.SurfaceProperties(face, properties, 0.01, false);
    else oc.BRepGProp.SurfaceProperties(face, properties, false, false);
    return properties.Mass();
  });
}

/** Centre of the surface, a place that does not depend on how a shape was built. */
export function surfaceCentre(shape: Shape): Vec3 {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.SurfaceProperties(shape, properties, false, false);
    return readPoint(scope, properties.CentreOfMass());
  });
}

/** The tight box of a shape, millimetres; null for a shape without geometry. */
export function boxOf(shape: Shape): Box | null {
  let known = tightBoxes.get(shape);
  if (known === undefined) {
    known = scoped((scope) => {
      const box = scope.use(new (lib().Bnd_Box)());
      lib().BRepBndLib.AddOptimal(shape, box, false, false);
      return readBox(scope, box);
    });
    tightBoxes.set(shape, known);
  }
  return known;
}

const tightBoxes = new WeakMap<Shape, Box | null>();

function readBox(scope: Scope, box: Bnd_Box): Box | null {
  return box.IsVoid() ? null : { min: readPoint(scope, box.CornerMin()), max: readPoint(scope, box.CornerMax()) };
}

const looseBoxes = new WeakMap<Shape, Box | null>();

/** A box that surely holds a shape, a little larger than need be: for sizing cutters, at a fraction of the cost. */
export function looseBoxOf(shape: Shape): Box | null {
  let known = looseBoxes.get(shape);
  if (known === undefined) {
    known = scoped((scope) => {
      const box = scope.use(new (lib().Bnd_Box)());
      lib().BRepBndLib.Add(shape, box, false);
      return readBox(scope, box);
    });
    looseBoxes.set(shape, known);
  }
  return known;
}

export type FaceKind =
  | "plane"
  | "cylinder"
  | "cone"
  | "sphere"
  | "torus"
  | "spline"
  | "revolution"
  | "extrusion"
  | "offset"
  | "other";

export const FACE_KINDS: Record<string, FaceKind> = {
  GeomAbs_Plane: "plane",
  GeomAbs_Cylinder: "cylinder",
  GeomAbs_Cone: "cone",
  GeomAbs_Sphere: "sphere",
  GeomAbs_Torus: "torus",
  GeomAbs_BezierSurface: "spline",
  GeomAbs_BSplineSurface: "spline",
  GeomAbs_SurfaceOfRevolution: "revolution",
  GeomAbs_SurfaceOfExtrusion: "extrusion",
  GeomAbs_OffsetSurface: "offset",
  GeomAbs_OtherSurface: "other",
};

export interface FaceFacts {
  kind: FaceKind;
  /** mm² */
  area: number;
  /** Centre of the face's surface; it need not lie on the face. */
  centre: Vec3;
  /** A plane's normal, pointing out of the material; a cylinder's axis. */
  direction?: Vec3;
  /** A cylinder's or a sphere's radius, mm. */
  radius?: number;
  /** A point on a cylinder's axis. */
  axisAt?: Vec3;
}

/** What a face is: its kind, size, place, and its normal, axis or radius where it has one. */
export function faceFacts(shape: Shape): FaceFacts {
  return scoped((scope) => {
    const oc = lib();
    const face = asFace(scope, shape);
    const surface = scope.use(new oc.BRepAdaptor_Surface(face, false));
    const kind = FACE_KINDS[surface.GetType() as string] ?? "other";
    const properties = scope.use(new oc.GProp_GProps());
    oc.BRepGProp.SurfaceProperties(face, properties, false, false);
    const facts: FaceFacts = { kind, area: properties.Mass(), centre: readPoint(scope, properties.CentreOfMass()) };
    if (kind === "plane") {
      facts.direction = planeOf(face)!.normal;
    } else if (kind === "cylinder") {
      const cylinder = scope.use(surface.Cylinder());
      facts.radius = cylinder.Radius();
      facts.direction = readPoint(scope, scope.use(cylinder.Axis()).Direction());
      facts.axisAt = readPoint(scope, cylinder.Location());
    } else if (kind === "sphere") {
      facts.radius = scope.use(surface.Sphere()).Radius();
    }
    return facts;
  });
}

/** Where the middle of one face is, by place: without the facts of all the others. */
export function faceCentre(shape: Shape, place: number): Vec3 {
  return knownFacts.get(shape)?.[place]?.centre ?? surfaceCentre(facesOf(shape)[place]!);
}

/** The facts of every face, in the order of `subshapes(shape, "face")`. */
export function allFaceFacts(shape: Shape): FaceFacts[] {
  let facts = knownFacts.get(shape);
  if (!facts) {
    facts = facesOf(shape).map(faceFacts);
    knownFacts.set(shape, facts);
  }
  return facts;
}

const knownFacts = new WeakMap<Shape, FaceFacts[]>();

export interface OpenEdge {
  /** A point half-way along the edge. */
  at: Vec3;
  /** mm */
  length: number;
}

/**
 * The edges that only one face uses once: where a shell is not closed. A seam of a cylinder, which its one face
 * uses twice, is not open, and neither is a pole.
 */
export function openEdges(shape: Shape): OpenEdge[] {
  const open = openPlaces(shape);
  if (open.length === 0) return [];
  const edges = edgeHandles(shape);
  return scoped((scope) =>
    open.map((place) => ({ at: edgePoint(scope, edges[place]!, 0.5), length: edgeLength(edges[place]!) })),
  );
}

/** The open edges of a shape, by place. */
export function openPlaces(shape: Shape): number[] {
  return incidenceOf(shape).edges.flatMap(({ point, uses }, place) => (uses === 1 && !point ? [place] : []));
}

export function edgeLength(edge: Shape): number {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.LinearProperties(edge, properties, false, false);
    return properties.Mass();
  });
}

/** The point at a fraction (0 to 1) of an edge's parameter range. */
export function edgePoint(scope: Scope, edge: Shape, fraction: number): Vec3 {
  const curve = scope.use(new (lib().BRepAdaptor_Curve)(asEdge(scope, edge)));
  const first = curve.FirstParameter();
  return readPoint(scope, curve.Value(first + (curve.LastParameter() - first) * fraction));
}

/** Whether the library's own full check (topology and geometry) finds no fault. */
export function isValid(shape: Shape): boolean {
  return scoped((scope) => scope.use(new (lib().BRepCheck_Analyzer)(shape, true, false, false)).IsValid());
}

/** A planar face's plane, its normal pointing out of the material; null when the face is not flat. */
export function planeOf(shape: Shape): { origin: Vec3; normal: Vec3 } | null {
  return scoped((scope) => {
    const face = asFace(scope, shape);
    const surface = scope.use(new (lib().BRepAdaptor_Surface)(face, false));
    if ((surface.GetType() as string) !== "GeomAbs_Plane") return null;
    const plane = scope.use(surface.Plane());
    const axis = readPoint(scope, scope.use(plane.Axis()).Direction());
    const sign = ((face.Orientation() as string) === "TopAbs_REVERSED" ? -1 : 1) * (plane.Direct() ? 1 : -1);
    return {
      origin: readPoint(scope, plane.Location()),
      normal: [axis[0] * sign + 0, axis[1] * sign + 0, axis[2] * sign + 0],
    };
  });
}

/** `planeOf` for every face, in the order of `subshapes(shape, "face")`. */
export function subshapePlanes(shape: Shape) {
  return facesOf(shape).map(planeOf);
}

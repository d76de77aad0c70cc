import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, facesOf, type Shape } from "../library/topology";
import { triangulate } from "../mesh/tessellate";
import { add, cross, distance, scale, sub, unit, type Vec3 } from "../space/vectors";
import { distanceToPoint, normalNear } from "./distance";

/** A point that lies on a face, away from its edges: the middle of its largest triangle, put onto the exact surface. */
export function pointOnFace(face: Shape): Vec3 {
  const mesh = triangulate(face, [], { linear: 0.1, angular: 0.3 });
  let best = -1;
  let result: Vec3 = [0, 0, 0];
  const vertex = (i: number): Vec3 => [mesh.positions[i * 3]!, mesh.positions[i * 3 + 1]!, mesh.positions[i * 3 + 2]!];
  for (let t = 0; t < mesh.indices.length; t += 3) {
    const [a, b, c] = [vertex(mesh.indices[t]!), vertex(mesh.indices[t + 1]!), vertex(mesh.indices[t + 2]!)];
    const u = sub(b, a);
    const v = sub(c, a);
    const size = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]);
    if (size > best) {
      best = size;
      result = scale(add(add(a, b), c), 1 / 3);
    }
  }
  return distanceToPoint(face, result)?.on2 ?? result;
}

/** mm: by so much a point is moved about, to see whether the place on a face that is nearest to it stays where it is. */
const STIR = 1e-5;

const WAYS: Vec3[] = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
];

/** mm: a place that goes further than this with the point is not one place. It may go a thousand times as far: it does near an axis. */
const STAYS = STIR * 1e3;

/** Of unit vectors: a face that looks another way by more than this beside a place has a tip or a fold there. */
const SAME_LOOK = 1e-2;

export interface PlaceOnFace {
  at: Vec3;
  /** The way in which the face looks there. */
  looks: Vec3;
}

/**
 * The place on one face of a shape, by place in it, that is nearest to a point. Told as `many` where other places of the face are as near
 * (from the middle of a ball, from the axis of a round wall), and as `tip` where the face looks in several ways there (a cone's tip).
 */
export function onFaceNear(shape: Shape, place: number, near: Vec3): PlaceOnFace | "many" | "tip" {
  const face = facesOf(shape)[place]!;
  const from = (point: Vec3): PlaceOnFace => {
    const at = distanceToPoint(face, point)?.on2 ?? point;
    return { at, looks: normalNear(face, at) };
  };
  const found = from(near);
  for (const way of WAYS) {
    const beside = from(add(near, scale(way, STIR)));
    if (distance(beside.at, found.at) > STAYS) return "many";
    if (distance(beside.looks, found.looks) > SAME_LOOK) return "tip";
  }
  return found;
}

/** Points along an edge of a face and, at each, the direction in the face's surface that leads out over that edge. */
export function outwardAlong(faceShape: Shape, edgeShape: Shape, count: number): { at: Vec3; outward: Vec3 }[] {
  return scoped((scope) => {
    const oc = lib();
    const edge = asEdge(scope, edgeShape);
    const curve = scope.use(new oc.BRepAdaptor_Curve(edge));
    const first = curve.FirstParameter();
    const span = curve.LastParameter() - first;
    const result: { at: Vec3; outward: Vec3 }[] = [];
    for (let i = 0; i < count; i++) {
      const p = scope.use(new oc.gp_Pnt());
      const t = scope.use(new oc.gp_Vec());
      curve.D1(first + (span * (i + 0.5)) / count, p, t);
      const at: Vec3 = [p.X(), p.Y(), p.Z()];
      const sideways = unit(cross(unit([t.X(), t.Y(), t.Z()]), normalNear(faceShape, at)));
      // One of the two ways leads back into the face: a small step tells which.
      const step = Math.max(1e-3, Math.abs(span) * 1e-4);
      const gap = (way: number) => distanceToPoint(faceShape, add(at, scale(sideways, way * step)))?.gap ?? 0;
      result.push({ at, outward: gap(1) >= gap(-1) ? sideways : scale(sideways, -1) });
    }
    return result;
  });
}

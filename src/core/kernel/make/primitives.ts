import { rememberBox } from "../facts/box";
import { rememberFlat } from "../facts/surfaces";
import { direction, frame, makeSegment, point } from "../library/geometry";
import { keepWith } from "../library/kept";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, type Shape } from "../library/topology";
import { unit, type Vec3 } from "../space/vectors";

/** A box with its lowest corner at `corner` and sizes along X, Y and Z, mm. */
export function makeBox(corner: Vec3, size: Vec3): Shape {
  return scoped((scope) => {
    const maker = scope.use(new (lib().BRepPrimAPI_MakeBox)(point(scope, corner), size[0], size[1], size[2]));
    return maker.Shape();
  });
}

/** A cylinder from the centre of its base along `axis`. */
export function makeCylinder(base: Vec3, axis: Vec3, radius: number, height: number): Shape {
  return scoped((scope) =>
    scope.use(new (lib().BRepPrimAPI_MakeCylinder)(frame(scope, base, axis), radius, height)).Shape(),
  );
}

export function makeSphere(centre: Vec3, radius: number): Shape {
  return scoped((scope) => scope.use(new (lib().BRepPrimAPI_MakeSphere)(point(scope, centre), radius)).Shape());
}

/** A torus about `axis`: `major` from the centre to the middle of the tube, `minor` the tube's own radius. */
export function makeTorus(centre: Vec3, axis: Vec3, major: number, minor: number): Shape {
  return scoped((scope) =>
    scope.use(new (lib().BRepPrimAPI_MakeTorus)(frame(scope, centre, axis), major, minor)).Shape(),
  );
}

/** A square planar face about `origin`, `half` to each side: how a workplane cuts. */
export function makePlaneFace(origin: Vec3, normal: Vec3, half: number): Shape {
  return scoped((scope) => {
    const plane = scope.use(new (lib().gp_Pln)(point(scope, origin), direction(scope, normal)));
    const maker = scope.use(new (lib().BRepBuilderAPI_MakeFace)(plane, -half, half, -half, half));
    const face = maker.Face();
    rememberFlat(face, origin, unit(normal));
    rememberBox(face, origin, Math.SQRT2 * half + 1e-6);
    return face;
  });
}

const keptPlanes = new WeakMap<Shape, Map<string, Shape>>();

/** As many planes are kept with one shape: enough for those that it is cut by again and again, not for every place of a dragged one. */
const PLANES_KEPT = 16;

/**
 * A planar face as `makePlaneFace` makes it, kept with the shape that it cuts, and freed with it: while a person turns sides
 * round and decides on pieces, the same plane cuts the same shape each time.
 * @returns the face, and whether it is kept; one that is not belongs to the caller, who frees it.
 */
export function planeFaceFor(cut: Shape, origin: Vec3, normal: Vec3, half: number): { face: Shape; kept: boolean } {
  let planes = keptPlanes.get(cut);
  if (!planes) {
    planes = new Map();
    keptPlanes.set(cut, planes);
  }
  const key = [...origin, ...normal, half].join(" ");
  const known = planes.get(key);
  if (known) return { face: known, kept: true };
  const face = makePlaneFace(origin, normal, half);
  if (planes.size >= PLANES_KEPT) return { face, kept: false };
  planes.set(key, face);
  keepWith(cut, [face]);
  return { face, kept: true };
}

/** A solid of revolution: the closed outline in (radius, height) pairs, turned fully about the Z axis. */
export function makeRevolved(outline: readonly (readonly [number, number])[]): Shape {
  return scoped((scope) => {
    const oc = lib();
    const wire = scope.use(new oc.BRepBuilderAPI_MakeWire());
    outline.forEach(([r, z], i) => {
      const [r2, z2] = outline[(i + 1) % outline.length]!;
      wire.Add(asEdge(scope, scope.use(makeSegment([r, 0, z], [r2, 0, z2]))));
    });
    const face = scope.use(scope.use(new oc.BRepBuilderAPI_MakeFace(scope.use(wire.Wire()), true)).Face());
    const axis = scope.use(new oc.gp_Ax1(point(scope, [0, 0, 0]), direction(scope, [0, 0, 1])));
    return scope.use(new oc.BRepPrimAPI_MakeRevol(face, axis, 2 * Math.PI, false)).Shape();
  });
}

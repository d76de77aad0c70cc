import { lib } from "./library";
import { FACE_KINDS, type FaceKind, readPoint } from "./measure";
import { scoped } from "./scope";
import { asFace, facesOf, type Shape } from "./topology";
import { dot, type Vec3 } from "./vectors";

export interface Surface {
  kind: FaceKind;
  /** Text that is equal for two faces on the same plane, cylinder or sphere; null for other surfaces. */
  signature: string | null;
}

const known = new WeakMap<Shape, Surface[]>();

/** The surfaces that a shape's faces lie on, in the order of its faces; kept with the handle, since it is asked often. */
export function surfacesOf(shape: Shape): Surface[] {
  let surfaces = known.get(shape);
  if (!surfaces) {
    surfaces = facesOf(shape).map(surfaceOf);
    known.set(shape, surfaces);
  }
  return surfaces;
}

/** Notes what a face just made from a plane lies on, so that nobody has to ask the library for it. */
export function rememberFlat(face: Shape, origin: Vec3, normal: Vec3): void {
  known.set(face, [flat(origin, normal)]);
}

const text = (values: readonly number[]) =>
  values.map((value) => (Math.round(value * 1e6) / 1e6 + 0).toFixed(6)).join(",");

/** One of two opposite directions, chosen by rule. */
const headed = (d: Vec3): Vec3 => {
  const lead = d.find((value) => Math.abs(value) > 1e-9) ?? 0;
  return lead < 0 ? [-d[0], -d[1], -d[2]] : d;
};

function flat(origin: Vec3, direction: Vec3): Surface {
  const normal = headed(direction);
  return { kind: "plane", signature: `plane ${text([...normal, dot(normal, origin)])}` };
}

function surfaceOf(shape: Shape): Surface {
  return scoped((scope) => {
    const oc = lib();
    const surface = scope.use(new oc.BRepAdaptor_Surface(asFace(scope, shape), false));
    const kind = FACE_KINDS[surface.GetType() as string] ?? "other";
    if (kind === "plane") {
      const plane = scope.use(surface.Plane());
      return flat(readPoint(scope, plane.Location()), readPoint(scope, scope.use(plane.Axis()).Direction()));
    }
    if (kind === "cylinder") {
      const cylinder = scope.use(surface.Cylinder());
      const axis = headed(readPoint(scope, scope.use(cylinder.Axis()).Direction()));
      const origin = readPoint(scope, cylinder.Location());
      const along = dot(axis, origin);
      return {
        kind,
        signature: `cylinder ${text([cylinder.Radius(), ...axis, origin[0] - along * axis[0], origin[1] - along * axis[1], origin[2] - along * axis[2]])}`,
      };
    }
    if (kind === "sphere") {
      const sphere = scope.use(surface.Sphere());
      return { kind, signature: `sphere ${text([sphere.Radius(), ...readPoint(scope, sphere.Location())])}` };
    }
    return { kind, signature: null };
  });
}

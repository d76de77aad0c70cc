import { lib } from "./library";
import { FACE_KINDS, type FaceKind, readPoint } from "./measure";
import { scoped } from "./scope";
import { asFace, type Shape, subshapes } from "./topology";
import type { Vec3 } from "./vectors";

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
    surfaces = scoped((scope) => subshapes(scope, shape, "face").map(surfaceOf));
    known.set(shape, surfaces);
  }
  return surfaces;
}

function surfaceOf(shape: Shape): Surface {
  return scoped((scope) => {
    const oc = lib();
    const surface = scope.use(new oc.BRepAdaptor_Surface(asFace(scope, shape), false));
    const kind = FACE_KINDS[surface.GetType() as string] ?? "other";
    const text = (values: readonly number[]) =>
      values.map((value) => (Math.round(value * 1e6) / 1e6 + 0).toFixed(6)).join(",");
    /** One of the two opposite directions, chosen by rule. */
    const headed = (d: Vec3): Vec3 => {
      const lead = d.find((value) => Math.abs(value) > 1e-9) ?? 0;
      return lead < 0 ? [-d[0], -d[1], -d[2]] : d;
    };
    if (kind === "plane") {
      const plane = scope.use(surface.Plane());
      const normal = headed(readPoint(scope, scope.use(plane.Axis()).Direction()));
      const origin = readPoint(scope, plane.Location());
      return {
        kind,
        signature: `plane ${text([...normal, normal[0] * origin[0] + normal[1] * origin[1] + normal[2] * origin[2]])}`,
      };
    }
    if (kind === "cylinder") {
      const cylinder = scope.use(surface.Cylinder());
      const axis = headed(readPoint(scope, scope.use(cylinder.Axis()).Direction()));
      const origin = readPoint(scope, cylinder.Location());
      const along = axis[0] * origin[0] + axis[1] * origin[1] + axis[2] * origin[2];
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

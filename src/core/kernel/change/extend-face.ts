import { type Patch, patchOf, type SurfaceRecord } from "../binary";
import { placed } from "../binary/places";
import type { SplineData } from "../binary/spline-data";
import { areaOf } from "../facts/mass";
import { KernelFault } from "../library/faults";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import type { Scope } from "../library/scope";
import { asFace, type Shape, shellOf, subshapes } from "../library/topology";
import { surfaceFace, type Vec4 } from "../make/nurbs";
import { offsetSheet } from "../make/sheet";
import { add, cross, dot, length, scale, sub, type Vec3 } from "../space/vectors";

/** How much larger than a face its extension has to be: the library has been seen to give the face itself back. */
const GROWN = 1 + 1e-6;

/**
 * A face run on past all its edges by at least `by` mm: planes stay planes, cylinders grow along their axis, free surfaces are taken
 * whole and run on smoothly. It belongs to the scope.
 * @throws KernelFault where it cannot be.
 */
export function extendFace(scope: Scope, face: Shape, by: number): Shape {
  const { surface, forward } = incidenceOf(face).faces[0]!;
  const free = surface && !("axis" in surface) ? freeExtended(scope, face, surface, by) : null;
  const extended = free ? (forward ? free : scope.use(free.Reversed())) : byLibrary(scope, face, by);
  if (areaOf(extended) < GROWN * areaOf(face))
    throw new KernelFault("A face of the sheet could not be extended.", false);
  return extended;
}

/** The library's own way. @param inV whether it runs on along v, too. @param inU along u. */
function byLibrary(scope: Scope, face: Shape, by: number, inU = true, inV = true): Shape {
  const oc = lib();
  const extended = scope.use(new oc.TopoDS_Face());
  oc.BRepLib.ExtendFace(asFace(scope, face), by, inU, inU, inV, inV, extended);
  if (extended.IsNull()) throw new KernelFault("A face of the sheet could not be extended.", false);
  return extended;
}

/**
 * All of a free surface that is drawn out or turned, or offset from one, as a spline surface that is run on: the library runs on
 * only those, and leaves others as they are without a word. Null for others. It looks as the surface does.
 */
function freeExtended(scope: Scope, face: Shape, surface: SurfaceRecord, by: number): Shape | null {
  if ("axis" in surface) return null;
  const { matrix } = surface;
  const there = (at: Vec3): Vec3 => (matrix ? placed({ id: 1, matrix }, at) : at);
  const bounds = lib().BRepTools.UVBounds(asFace(scope, face), 0, 0, 0, 0);
  switch (surface.kind) {
    case "extrusion": {
      const spline = plainSpline(surface.of);
      if (!spline) return null;
      const vs: [number, number] = [bounds.VMin - by, bounds.VMax + by];
      const rows = spline.poles.map((at, i) =>
        vs.map((v) => weighed(there(add(at as unknown as Vec3, scale(surface.way, v))), spline.weights?.[i] ?? 1)),
      );
      const made = surfaceFace(scope, rows, knotsOf(spline), { degree: 1, knots: vs, mults: [2, 2] });
      return byLibrary(scope, made, by, true, false);
    }
    case "revolution": {
      const spline = plainSpline(surface.of);
      const patch = patchOf({ ...surface, matrix: undefined } as SurfaceRecord);
      if (!spline || !patch) return null;
      const arc = arcOf(patch, surface, [bounds.UMin, bounds.UMax], by);
      const rows = arc.poles.map(({ along, w }) =>
        spline.poles.map((at, j) => {
          const from = sub(at as unknown as Vec3, surface.axisAt);
          const up = scale(surface.axisWay, dot(from, surface.axisWay));
          const out = sub(from, up);
          const turned = add(scale(out, along[0]), scale(cross(surface.axisWay, out), along[1]));
          return weighed(there(add(surface.axisAt, add(up, turned))), w * (spline.weights?.[j] ?? 1));
        }),
      );
      const made = surfaceFace(scope, rows, arc, knotsOf(spline));
      return byLibrary(scope, made, by, false, true);
    }
    case "offset": {
      const base = freeExtended(scope, face, { ...surface.of, matrix } as SurfaceRecord, by + Math.abs(surface.by));
      if (!base) return null;
      const made = offsetSheet({ shape: scope.use(shellOf([base])), sources: [0] }, surface.by);
      return subshapes(scope, scope.use(made.shape), "face")[0]!;
    }
    default:
      return null;
  }
}

const weighed = (at: Vec3, w: number): Vec4 => [at[0] * w, at[1] * w, at[2] * w, w];

function plainSpline(curve: Extract<SurfaceRecord, { kind: "extrusion" }>["of"]): SplineData | null {
  const spline = curve.kind === "spline" ? curve.spline?.() : undefined;
  return spline && !spline.periodic ? spline : null;
}

function knotsOf({ degree, knots }: SplineData) {
  const distinct = [...new Set(knots)];
  return { degree, knots: distinct, mults: distinct.map((knot) => knots.filter((other) => other === knot).length) };
}

/**
 * A turn as a rational spline of degree 2, in arcs of a third of a circle at most (Piegl & Tiller, The NURBS Book, 7.5): as far as the
 * face is turned and at least `by` mm more on both sides where it is nearest to the axis, or once round.
 */
function arcOf(
  patch: Patch,
  { axisAt, axisWay }: { axisAt: Vec3; axisWay: Vec3 },
  [from, to]: [number, number],
  by: number,
) {
  const own = new Float64Array(18);
  const [low, high] = [patch.breaks[1][0]!, patch.breaks[1].at(-1)!];
  const radii = Array.from({ length: LOOKS + 1 }, (_, i) => {
    patch.at(0, low + ((high - low) * i) / LOOKS, own);
    const away = sub([own[0]!, own[1]!, own[2]!], axisAt);
    return length(sub(away, scale(axisWay, dot(away, axisWay))));
  });
  const more = by / Math.max(Math.min(...radii), 1e-9);
  const round = to - from + 2 * more >= 2 * Math.PI;
  const [start, end] = round ? [from, from + 2 * Math.PI] : [from - more, to + more];
  const count = Math.ceil((end - start) / ((2 * Math.PI) / 3) - 1e-9);
  const step = (end - start) / count;
  const w = Math.cos(step / 2);
  const poles: { along: [number, number]; w: number }[] = [];
  for (let i = 0; i <= 2 * count; i++) {
    const angle = start + (i * step) / 2;
    const far = i % 2 ? 1 / w : 1;
    poles.push({ along: [far * Math.cos(angle), far * Math.sin(angle)], w: i % 2 ? w : 1 });
  }
  const knots = Array.from({ length: count + 1 }, (_, i) => start + i * step);
  return { poles, degree: 2, knots, mults: knots.map((_, i) => (i === 0 || i === count ? 3 : 2)) };
}

const LOOKS = 32;

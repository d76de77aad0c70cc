import type { EdgeUse, FaceStructure, Structure, SurfaceFrame, SurfaceRecord } from "../binary";
import { integrate } from "../space/quadrature";
import { cross, dot, scale } from "../space/vectors";
import { closings, runEnds } from "./closings";
import type { FaceIntegrals } from "./integrals";
import { combined, overSpans, pieces } from "./integrals-along";

/**
 * What is integrated over a surface of revolution, each as a function of v that has been integrated over v already, so
 * that only −∮ du is left: the area, the distance from the axis and the height along it, each times the area; the
 * normal's part away from the axis and along it; and the normal · place seen from the surface's own origin.
 */
interface Primitives {
  area(v: number): number;
  out(v: number): number;
  up(v: number): number;
  normalOut(v: number): number;
  normalUp(v: number): number;
  own(v: number): number;
  /** Whether v is an angle. */
  round: boolean;
}

function primitives(surface: Exclude<SurfaceRecord, { kind: "plane" }> & SurfaceFrame): Primitives | null {
  switch (surface.kind) {
    case "cylinder": {
      const r = surface.radius;
      const area = (v: number) => r * v;
      return {
        area,
        out: (v) => r * r * v,
        up: (v) => (r * v * v) / 2,
        normalOut: area,
        normalUp: () => 0,
        own: (v) => r * r * v,
        round: false,
      };
    }
    case "cone": {
      const { radius: r, half } = surface;
      const [s, c] = [Math.sin(half), Math.cos(half)];
      const area = (v: number) => r * v + (s * v * v) / 2;
      return {
        area,
        out: (v) => r * r * v + r * s * v * v + (s * s * v ** 3) / 3,
        up: (v) => c * ((r * v * v) / 2 + (s * v ** 3) / 3),
        normalOut: (v) => c * area(v),
        normalUp: (v) => -s * area(v),
        own: (v) => r * c * area(v),
        round: false,
      };
    }
    case "sphere": {
      const r = surface.radius;
      const area = (v: number) => r * r * Math.sin(v);
      const squared = (v: number) => v / 2 + Math.sin(2 * v) / 4;
      return {
        area,
        out: (v) => r ** 3 * squared(v),
        up: (v) => (r ** 3 * Math.sin(v) ** 2) / 2,
        normalOut: (v) => r * r * squared(v),
        normalUp: (v) => (r * r * Math.sin(v) ** 2) / 2,
        own: (v) => r * area(v),
        round: true,
      };
    }
    case "torus": {
      const { major: m, minor: r } = surface;
      // A torus that overlaps itself has parts that are run through backwards.
      if (m <= r) return null;
      const squared = (v: number) => v / 2 + Math.sin(2 * v) / 4;
      const area = (v: number) => r * (m * v + r * Math.sin(v));
      const cosine = (v: number) => r * (m * Math.sin(v) + r * squared(v));
      const sine = (v: number) => r * (-m * Math.cos(v) + (r * Math.sin(v) ** 2) / 2);
      return {
        area,
        out: (v) => r * (m * m * v + 2 * m * r * Math.sin(v) + r * r * squared(v)),
        up: (v) => r * sine(v),
        normalOut: cosine,
        normalUp: sine,
        own: (v) => m * cosine(v) + r * area(v),
        round: true,
      };
    }
    default:
      return null;
  }
}

/** What is integrated round a face, at a place of its surface. */
function valuesAt(over: Primitives, u: number, v: number): number[] {
  const [c, s] = [Math.cos(u), Math.sin(u)];
  const [out, normal] = [over.out(v), over.normalOut(v)];
  return [over.area(v), c * out, s * out, over.up(v), c * normal, s * normal, over.normalUp(v), over.own(v)];
}

/** Adds what integrating along an edge gives whose image on the surface is a spline. @returns false where it is not to be had. */
function alongSpline(
  image: NonNullable<ReturnType<FaceStructure["image"]>>,
  surface: SurfaceRecord & SurfaceFrame,
  over: Primitives,
  way: number,
  total: number[],
  rough: boolean,
): boolean {
  if (image.curve.kind !== "spline") return false;
  const sums = overSpans(image.curve, image.from, image.to, rough, ({ at, slope }) => {
    const [u, v] = [at[0]!, at[1]!];
    // On the far side of its tip a cone is run through backwards.
    const past = surface.kind === "cone" && surface.radius + v * Math.sin(surface.half) < -1e-9;
    const values = valuesAt(over, u, v);
    // Where an edge runs along the axis, what its image turns by is rounding of the angle alone.
    const size = Math.max(...values.map(Math.abs)) * (1 + Math.abs(u));
    return { values: values.map((value) => (past ? Number.NaN : value * slope[0]!)), size };
  });
  sums?.forEach((value, i) => {
    total[i]! -= way * value;
  });
  return sums !== null;
}

/** Over a part of a cylinder, a cone, a ball or a ring, along its edges in the parameters of its surface. */
export function roundIntegrals(
  structure: Structure,
  face: FaceStructure,
  surface: SurfaceRecord & SurfaceFrame,
  uses: EdgeUse[],
  rough: boolean,
): FaceIntegrals | null {
  const over = surface.kind === "plane" ? null : primitives(surface);
  if (!over) return null;
  const total = Array<number>(8).fill(0);
  const images = uses.map((use) => face.image(use));
  for (const [place, use] of uses.entries()) {
    const image = images[place];
    if (image?.curve.kind === "spline") {
      if (!alongSpline(image, surface, over, use.way, total, rough)) return null;
      continue;
    }
    if (image?.curve.kind !== "line") return null;
    const { at, way } = image.curve;
    const [du, dv] = [way[0]!, way[1]!];
    if (surface.kind === "cone") {
      // On the far side of its tip a cone is run through backwards.
      const widths = [image.from, image.to].map((t) => surface.radius + (at[1]! + t * dv) * Math.sin(surface.half));
      if (Math.min(...widths) < -1e-9 * (1 + Math.max(...widths))) return null;
    }
    if (du === 0) continue;
    const turns = Math.max(Math.abs(du), over.round ? Math.abs(dv) : 0) * (image.to - image.from);
    const part = integrate(image.from, image.to, pieces(turns), (t) => {
      return valuesAt(over, at[0]! + t * du, at[1]! + t * dv);
    });
    part.forEach((value, i) => {
      total[i]! -= use.way * du * value;
    });
  }
  for (const { from, to } of closings(structure, uses, ({ way }, place) => runEnds(images[place]!, way))) {
    const [du, dv] = [to[0]! - from[0]!, to[1]! - from[1]!];
    integrate(0, 1, 1, (t) => valuesAt(over, from[0]! + t * du, from[1]! + t * dv)).forEach((value, i) => {
      total[i]! -= du * value;
    });
  }
  const [area, outX, outY, up, normalX, normalY, normalUp, own] = total as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const { at, axis, x, y } = surface;
  // In a left-handed frame the surface's normal points to its axis.
  const handed = dot(cross(x, y), axis) > 0 ? 1 : -1;
  const normal = scale(combined([0, 0, 0], [normalX, x], [normalY, y], [normalUp, axis]), handed);
  return {
    area,
    moment: combined([0, 0, 0], [area, at], [outX, x], [outY, y], [up, axis]),
    normal,
    flux: handed * own + dot(at, normal),
  };
}

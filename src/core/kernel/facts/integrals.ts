import {
  type Curve,
  conicTerms,
  type EdgeUse,
  type FaceStructure,
  isConic,
  pointsOf,
  type Structure,
  type SurfaceFrame,
  type SurfaceRecord,
} from "../binary";
import type { CurvePoint } from "../binary/curve-at";
import { spansOf } from "../binary/spline-data";
import { integrate } from "../space/quadrature";
import { cross, dot, length, scale, type Vec3 } from "../space/vectors";
import { closings, runEnds } from "./closings";
import { freeIntegrals } from "./free-integrals";

/** What integrating over a face gives, exact to rounding. */
export interface FaceIntegrals {
  /** mm² */
  area: number;
  /** The integral of the place over the face, mm³: divided by the area it is the middle of the face. */
  moment: Vec3;
  /** The integral of the outward normal, mm²: the sum over a skin with no gap is nothing. */
  normal: Vec3;
  /** The integral of place · outward normal, mm³: a third of the sum over a closed skin is the volume within. */
  flux: number;
}

/**
 * Integrates over a flat face that lines, conics and splines bound, or over a part of a cylinder, cone, sphere or
 * torus whose edges are straight in the surface's parameters: by Green's theorem along its edges.
 * @param rough whether edges that are splines are gone along once, which is good to tell places by; else in ever more
 * parts until two divisions agree to 1e-11.
 * @returns null for any other face, which is left to the library's own integration.
 */
export function faceIntegrals(structure: Structure, place: number, rough = false): FaceIntegrals | null {
  const face = structure.faces[place]!;
  const { surface } = face;
  if (!surface) return null;
  const uses = face.wires.flat().filter(({ bounds }) => bounds);
  if (uses.length === 0) return null;
  const found = integralsOf(structure, face, surface, uses, rough);
  if (!found || !(found.area > 0)) return null;
  return face.forward ? found : { ...found, normal: scale(found.normal, -1), flux: -found.flux };
}

function integralsOf(
  structure: Structure,
  face: FaceStructure,
  surface: SurfaceRecord,
  uses: EdgeUse[],
  rough: boolean,
): FaceIntegrals | null {
  const form =
    "axis" in surface &&
    (surface.kind === "plane" ? flat(structure, surface, uses, rough) : curved(structure, face, surface, uses, rough));
  // A ring that overlaps itself, a cone past its tip, an edge that runs beside another: as on a free surface.
  return form || freeIntegrals(structure, face, uses, rough);
}

const QUARTER = Math.PI / 2;
/** Pieces in which an angle is integrated. */
const pieces = (angle: number) => Math.max(1, Math.ceil(Math.abs(angle) / QUARTER - 1e-9));

const sum = (at: Vec3, ...terms: (readonly [number, Vec3])[]): Vec3 => {
  let [x, y, z] = at;
  for (const [by, way] of terms) {
    x += by * way[0];
    y += by * way[1];
    z += by * way[2];
  }
  return [x, y, z];
};

/** ∮ x dy for the area; ∮ x²/2 dy and −∮ y²/2 dx for the moments: about a corner of the face, so that nothing cancels. */
function flat(
  structure: Structure,
  { x: ex, y: ey }: SurfaceFrame,
  uses: EdgeUse[],
  rough: boolean,
): FaceIntegrals | null {
  const { edges, vertices } = structure;
  // A closed edge need not have a corner.
  const { vertices: ends, curve: begins } = edges[uses[0]!.edge]!;
  const about =
    vertices[ends[0] ?? -1]?.at ?? (begins && (pointsOf(begins.curve)?.(begins.from).at as Vec3 | undefined));
  if (!about) return null;
  const local = (p: readonly number[]): [number, number] => {
    const away: Vec3 = [p[0]! - about[0], p[1]! - about[1], p[2]! - about[2]];
    return [dot(away, ex), dot(away, ey)];
  };
  const away = length(about);
  const turn = (d: readonly number[]): [number, number] => [dot(d as never, ex), dot(d as never, ey)];
  let [area, mx, my] = [0, 0, 0];
  for (const { edge, way } of uses) {
    const { curve: run, point } = edges[edge]!;
    if (point) continue;
    const part = run && alongCurve(run.curve, run.from, run.to, local, turn, away, rough);
    if (!part) return null;
    area += way * part[0]!;
    mx += way * part[1]!;
    my += way * part[2]!;
  }
  const gaps = closings(structure, uses, ({ edge, way }) => {
    const run = edges[edge]!.curve;
    return run && runEnds(run, way);
  });
  for (const { from, to } of gaps) {
    const part = alongLine(local(from), local(to));
    area += part[0]!;
    mx += part[1]!;
    my += part[2]!;
  }
  const normal = scale(cross(ex, ey), area);
  return { area, moment: sum([0, 0, 0], [area, about], [mx, ex], [my, ey]), normal, flux: dot(about, normal) };
}

const alongLine = ([x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): number[] => [
  ((x0 + x1) / 2) * (y1 - y0),
  ((x0 * x0 + x0 * x1 + x1 * x1) / 6) * (y1 - y0),
  (-(y0 * y0 + y0 * y1 + y1 * y1) / 6) * (x1 - x0),
];

type ToPlane = (of: readonly number[]) => [number, number];

function alongCurve(
  curve: Curve,
  from: number,
  to: number,
  local: ToPlane,
  turn: ToPlane,
  away: number,
  rough: boolean,
): number[] | null {
  if (curve.kind === "line") {
    const [[x, y], [dx, dy]] = [local(curve.at), turn(curve.way)];
    return alongLine([x + from * dx, y + from * dy], [x + to * dx, y + to * dy]);
  }
  if (curve.kind === "spline")
    return overSpans(curve, from, to, rough, ({ at, slope }) => flatIntegrand(local(at), turn(slope), away));
  if (!isConic(curve)) return null;
  const [[cx, cy], [ax, ay], [bx, by]] = [local(curve.at), turn(curve.x), turn(curve.y)];
  const at = (t: number): Integrand => {
    const terms = conicTerms(curve, t);
    return flatIntegrand(
      [cx + terms.x[0] * ax + terms.y[0] * bx, cy + terms.x[0] * ay + terms.y[0] * by],
      [terms.x[1] * ax + terms.y[1] * bx, terms.x[1] * ay + terms.y[1] * by],
      away,
    );
  };
  if (curve.kind === "hyperbola") return settled(from, to, rough, at);
  // A quarter turn is exact to rounding in one piece, and a parabola is a polynomial.
  return integrate(from, to, curve.kind === "parabola" ? 1 : pieces(to - from), (t) => at(t).values);
}

/**
 * What is integrated, at one place, and how large its integral over the whole stretch is where nothing in it cancels: what
 * rounding is measured by. It is no smaller for a short stretch, since what a curve goes on by there is a difference of places.
 */
interface Integrand {
  values: number[];
  size: number;
}

/** What is integrated round a flat face, at a place that goes on so. @param away how far off the world's origin the face lies. */
function flatIntegrand(
  [x, y]: readonly [number, number],
  [dx, dy]: readonly [number, number],
  away: number,
): Integrand {
  const far = Math.abs(x) + Math.abs(y);
  return {
    values: [x * dy, ((x * x) / 2) * dy, ((-y * y) / 2) * dx],
    size: far * (far + away) * Math.max(1, far),
  };
}

/** Integrates along a spline, stretch by stretch; null where that does not settle. */
function overSpans(
  curve: Extract<Curve, { kind: "spline" }>,
  from: number,
  to: number,
  rough: boolean,
  at: (point: CurvePoint) => Integrand,
): number[] | null {
  const written = curve.spline?.();
  const point = pointsOf(curve);
  if (!written || !point) return null;
  const sums: number[] = [];
  for (const [low, high] of spansOf(written, from, to)) {
    const part = settled(low, high, rough, (t) => at(point(t)));
    if (!part) return null;
    part.forEach((value, i) => {
      sums[i] = (sums[i] ?? 0) + value;
    });
  }
  return sums;
}

/** Integrates over a stretch in ever more parts until two divisions agree, or in one; null where they do not. */
function settled(from: number, to: number, rough: boolean, at: (t: number) => Integrand): number[] | null {
  let before: number[] | null = null;
  for (let parts = 1; parts <= MOST_PARTS; parts *= 2) {
    let size = 0;
    const now = integrate(from, to, parts, (t) => {
      const found = at(t);
      size = Math.max(size, found.size);
      return found.values;
    });
    if (now.some((value) => !Number.isFinite(value))) return null;
    const most = Math.max(...now.map(Math.abs));
    const allowed = Math.max(AGREE * most, ROUNDING * size);
    if (rough || before?.every((value, i) => Math.abs(value - now[i]!) <= allowed)) return now;
    before = now;
  }
  return null;
}

/** Into how many parts a stretch of a spline is divided at most, and how well two divisions have to agree, relative. */
const MOST_PARTS = 64;
const AGREE = 1e-11;
/** The same, of what the integrand is where nothing in it cancels: along a straight side through the corner all does. */
const ROUNDING = 1e-14;

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

function curved(
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
  const normal = scale(sum([0, 0, 0], [normalX, x], [normalY, y], [normalUp, axis]), handed);
  return {
    area,
    moment: sum([0, 0, 0], [area, at], [outX, x], [outY, y], [up, axis]),
    normal,
    flux: handed * own + dot(at, normal),
  };
}

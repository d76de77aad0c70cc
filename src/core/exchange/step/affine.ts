import { add, cross, dot, length, scale, sub, unit, type Vec3 } from "../../kernel";
import { type Part21Record, parseRecords, pointers, splitArguments } from "./part21";
import { StepPen } from "./pen";
import { type Quadric, quadricSurface } from "./quadrics";

/** Thrown where a surface or curve of a file has no form that can be stretched exactly. */
export class NotStretchable extends Error {}

/** A stretch along the axes, about a point. All factors are above 0. */
export interface Stretch {
  about: Vec3;
  factors: Vec3;
}

/**
 * The text of a STEP file with its solids stretched along the axes: exactly. Planes stay planes, lines lines; a circle
 * becomes an ellipse, a cylinder the surface that an ellipse is drawn out to; cones, spheres and rings become rational
 * splines, whose poles are stretched. Curves in the parameters of surfaces are left out: the reader finds them again.
 *
 * Source of the records: ISO 10303-42 and -511, as the library writes them.
 * @throws NotStretchable for surfaces of revolution, offset surfaces, and curves that are neither conics nor splines.
 */
export function stretchStep(text: string, { about, factors }: Stretch): string {
  const records = parseRecords(new TextEncoder().encode(text));
  const byId = new Map(records.map((record) => [record.id, record] as const));
  const reader = new Reader(byId);
  const times = (v: Vec3, by: Vec3): Vec3 => [v[0] * by[0], v[1] * by[1], v[2] * by[2]];
  const point = (p: Vec3): Vec3 => add(about, times(sub(p, about), factors));
  const way = (v: Vec3): Vec3 => times(v, factors);
  // A normal is stretched by the inverse: it has to stay square to what lies in the plane.
  const square = (n: Vec3): Vec3 => times(n, [1 / factors[0], 1 / factors[1], 1 / factors[2]]);
  const pen = new StepPen(Math.max(0, ...byId.keys()) + 1);
  const changed = new Map<number, string>();
  const curves = new Map<number, number>();
  const surfaces = new Map<number, number>();

  /** The record of a curve in space, stretched. */
  const curve = (id: number): number => {
    const known = curves.get(id);
    if (known !== undefined) return known;
    const made = makeCurve(id);
    curves.set(id, made);
    return made;
  };
  const makeCurve = (id: number): number => {
    const record = reader.record(id);
    const args = splitArguments(record.body);
    switch (record.types[0]) {
      case "SURFACE_CURVE":
      case "SEAM_CURVE":
        return curve(pointers(args[1]!)[0]!);
      case "LINE": {
        const [at, vector] = [pointers(args[1]!)[0]!, pointers(args[2]!)[0]!];
        return pen.line(point(reader.point(at)), way(reader.vector(vector)));
      }
      case "CIRCLE":
      case "ELLIPSE": {
        const { origin, x, y } = reader.placement(pointers(args[1]!)[0]!);
        const major = Number(args[2]);
        const minor = record.types[0] === "CIRCLE" ? major : Number(args[3]);
        return pen.ellipse(point(origin), way(scale(x, major)), way(scale(y, minor)));
      }
      default:
        if (record.types.some((type) => type.startsWith("B_SPLINE_CURVE"))) return splined(record);
        throw new NotStretchable(record.types.join(" "));
    }
  };
  /** A spline with its poles stretched: all else of it stays. */
  const splined = (record: Part21Record): number => {
    const name = record.types.length === 1 ? record.types[0]! : "";
    const body = record.body.replace(/#(\d+)/g, (all, id: string) => {
      const target = byId.get(Number(id));
      return target?.types[0] === "CARTESIAN_POINT" ? `#${pen.point(point(reader.point(Number(id))))}` : all;
    });
    return pen.write(name ? `${name}(${body})` : body);
  };
  /** The record of a face's surface, stretched. */
  const surface = (face: Part21Record, id: number): number => {
    const record = reader.record(id);
    const args = splitArguments(record.body);
    const [type] = record.types;
    const shared = surfaces.get(id);
    if (shared !== undefined) return shared;
    const keep = (made: number): number => {
      surfaces.set(id, made);
      return made;
    };
    if (record.types.some((name) => name.startsWith("B_SPLINE_SURFACE"))) return keep(splined(record));
    if (type === "SURFACE_OF_LINEAR_EXTRUSION")
      return keep(pen.extrusion(curve(pointers(args[1]!)[0]!), way(reader.vector(pointers(args[2]!)[0]!))));
    if (!type || !/^(PLANE|CYLINDRICAL|CONICAL|SPHERICAL|TOROIDAL)/.test(type)) throw new NotStretchable(String(type));
    const frame = reader.placement(pointers(args[1]!)[0]!);
    const { origin, x, y, z } = frame;
    if (type === "PLANE") return keep(pen.plane(point(origin), square(z), way(x)));
    const radius = Number(args[2]);
    if (type === "CYLINDRICAL_SURFACE") {
      const base = pen.ellipse(point(origin), way(scale(x, radius)), way(scale(y, radius)));
      return keep(pen.extrusion(base, way(z)));
    }
    // Round surfaces become splines that are cut open where the face is not: each face has its own.
    const kind = { CONICAL_SURFACE: "cone", SPHERICAL_SURFACE: "sphere", TOROIDAL_SURFACE: "torus" }[
      type
    ] as Quadric["kind"];
    const more = Number(args[3] ?? 0);
    return quadricSurface(pen, { kind, frame, radius, more, ...reader.around(face, frame, kind, radius) }, point);
  };

  for (const record of records) {
    const args = splitArguments(record.body);
    switch (record.types[0]) {
      case "VERTEX_POINT":
        changed.set(record.id, `VERTEX_POINT(${args[0]},#${pen.point(point(reader.point(pointers(args[1]!)[0]!)))})`);
        break;
      case "EDGE_CURVE":
        changed.set(
          record.id,
          `EDGE_CURVE(${args[0]},${args[1]},${args[2]},#${curve(pointers(args[3]!)[0]!)},${args[4]})`,
        );
        break;
      case "ADVANCED_FACE":
      case "FACE_SURFACE":
        changed.set(
          record.id,
          `${record.types[0]}(${args[0]},${args[1]},#${surface(record, pointers(args[2]!)[0]!)},${args[3]})`,
        );
        break;
    }
  }
  const [head] = text.split(/\bDATA\s*;/);
  const body = records
    .map(
      ({ id, types, body: own }) => `#${id}=${changed.get(id) ?? (types.length === 1 ? `${types[0]}(${own})` : own)};`,
    )
    .join("\n");
  return `${head}DATA;\n${body}\n${pen.text()}\nENDSEC;\nEND-ISO-10303-21;\n`;
}

export interface Placed {
  origin: Vec3;
  x: Vec3;
  y: Vec3;
  z: Vec3;
}

/** Where a face lies round an axis, so that its surface can be cut open beside it. */
export interface Around {
  /** Where it is cut open round the axis, radians: beside the face, or at its own seam. */
  start: number;
  /** Likewise round a ring's tube. */
  tubeStart: number;
  /** From where to where its corners lie along the axis, mm. */
  low: number;
  high: number;
}

/** Reads what records mean. */
class Reader {
  constructor(private readonly byId: ReadonlyMap<number, Part21Record>) {}

  record(id: number): Part21Record {
    const record = this.byId.get(id);
    if (!record) throw new NotStretchable(`#${id}`);
    return record;
  }

  point(id: number): Vec3 {
    return numbers(splitArguments(this.record(id).body)[1]!);
  }

  vector(id: number): Vec3 {
    const args = splitArguments(this.record(id).body);
    return scale(this.point(pointers(args[1]!)[0]!), Number(args[2]));
  }

  placement(id: number): Placed {
    const [, at, axis, lead] = splitArguments(this.record(id).body);
    const z = axis?.startsWith("#") ? unit(this.point(pointers(axis)[0]!)) : ([0, 0, 1] as Vec3);
    const any: Vec3 = Math.abs(z[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
    const given = lead?.startsWith("#") ? this.point(pointers(lead)[0]!) : any;
    const x = unit(sub(given, scale(z, dot(given, z))));
    return { origin: this.point(pointers(at!)[0]!), x, y: cross(z, x), z };
  }

  /** The edges of a face, each as often as the face uses it. */
  private edges(face: Part21Record): Part21Record[] {
    return pointers(splitArguments(face.body)[1]!).flatMap((bound) => {
      const loop = this.record(pointers(splitArguments(this.record(bound).body)[1]!)[0]!);
      if (loop.types[0] !== "EDGE_LOOP") return [];
      return pointers(splitArguments(loop.body)[1]!).map((oriented) =>
        this.record(pointers(splitArguments(this.record(oriented).body)[3]!)[0]!),
      );
    });
  }

  around(face: Part21Record, { origin, x, y, z }: Placed, kind: Quadric["kind"], radius: number): Around {
    const edges = this.edges(face);
    const corners = edges.flatMap((edge) => {
      const [, from, to] = splitArguments(edge.body);
      return [from!, to!].map((vertex) =>
        this.point(pointers(splitArguments(this.record(pointers(vertex)[0]!).body)[1]!)[0]!),
      );
    });
    const away = corners.map((corner) => sub(corner, origin));
    const heights = away.map((v) => dot(v, z));
    const angles = away.flatMap((v) =>
      Math.hypot(dot(v, x), dot(v, y)) < 1e-9 ? [] : [Math.atan2(dot(v, y), dot(v, x))],
    );
    const tube = away.map((v) => Math.atan2(dot(v, z), Math.hypot(dot(v, x), dot(v, y)) - radius));
    const twice = edges.filter((edge, i) => edges.some((other, j) => j !== i && other === edge));
    // An edge that a face uses twice is where its surface is cut open already: at the angle 0, along the axis or round it.
    const along = (edge: Part21Record): boolean => {
      const id = pointers(splitArguments(edge.body)[3]!)[0]!;
      const inSpace = /^(SURFACE|SEAM)_CURVE$/.test(this.record(id).types[0]!)
        ? this.record(pointers(splitArguments(this.record(id).body)[1]!)[0]!)
        : this.record(id);
      if (inSpace.types[0] !== "CIRCLE") return true;
      const circle = this.placement(pointers(splitArguments(inSpace.body)[1]!)[0]!);
      return length(cross(circle.z, z)) > 1e-6;
    };
    return {
      start: twice.some(along) ? 0 : widestGap(angles),
      tubeStart: kind === "torus" && twice.some((edge) => !along(edge)) ? 0 : widestGap(tube),
      low: Math.min(...heights),
      high: Math.max(...heights),
    };
  }
}

const numbers = (list: string): Vec3 => list.replace(/[()]/g, "").split(",").map(Number) as unknown as Vec3;

/** The middle of the widest gap between angles: there the face is not. */
function widestGap(angles: readonly number[]): number {
  if (angles.length === 0) return 0;
  const turn = 2 * Math.PI;
  const sorted = [...angles].sort((a, b) => a - b);
  let [best, wide] = [0, -1];
  sorted.forEach((angle, i) => {
    const next = i + 1 < sorted.length ? sorted[i + 1]! : sorted[0]! + turn;
    if (next - angle > wide) [best, wide] = [(angle + next) / 2, next - angle];
  });
  return best;
}

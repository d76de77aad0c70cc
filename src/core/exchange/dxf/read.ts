import DxfParser, { type IEntity } from "dxf-parser";
import { fail } from "../../errors";
import { Poles, type Vec2 } from "../../sketch";
import { counted } from "../../words";
import {
  type Affine,
  type DrawingFile,
  type FileCurve,
  followedBy,
  IDENTITY,
  line,
  mapFileCurve,
  refuseMany,
} from "../drawing/curves";
import { SplineWithWeights } from "./spline-handler";

/** Millimetres in the units that $INSUNITS names (DXF reference, header variables). */
const UNITS: Record<number, readonly [name: string, mm: number]> = {
  1: ["inches", 25.4],
  2: ["feet", 304.8],
  4: ["millimetres", 1],
  5: ["centimetres", 10],
  6: ["metres", 1000],
};

interface Point {
  x: number;
  y: number;
  z?: number;
}
interface Polyline extends IEntity {
  vertices: (Point & { bulge?: number })[];
  shape?: boolean;
  closed?: boolean;
}
/** The fields of every kind that is read, as the parser leaves them. */
type Any = IEntity & {
  vertices?: Point[];
  center?: Point;
  radius?: number;
  startAngle?: number;
  endAngle?: number;
  majorAxisEndPoint?: Point;
  axisRatio?: number;
  controlPoints?: Point[];
  fitPoints?: Point[];
  knotValues?: number[];
  weights?: number[];
  degreeOfSplineCurve?: number;
  closed?: boolean;
  position?: Point;
  name?: string;
  xScale?: number;
  yScale?: number;
  rotation?: number;
  extrusionDirectionZ?: number;
};

/**
 * Reads the curves of a DXF file.
 * @param unit what a file without units counts in.
 * @throws SeamError when it is no DXF, is broken, or holds more than a sketch can take.
 */
export function readDxf(text: string, unit: "mm" | "inch"): DrawingFile {
  if (/^[\w ]{1,20}Binary DXF/.test(text))
    fail("dxf-binary", "This is a binary DXF. Save it as text (ASCII) DXF and bring that in.");
  if (!/\bSECTION\b/.test(text.slice(0, 100_000)) || !/\bENTITIES\b/.test(text))
    fail("dxf-unreadable", "This is no DXF file: it has no section of entities. Save the drawing as DXF again.");
  const drawing = parse(text);
  const entities = drawing.entities as Any[];
  const code = Number((drawing.header as Record<string, unknown> | undefined)?.$INSUNITS ?? 0);
  const [name, mm] = UNITS[code] ?? (unit === "inch" ? ["inches", 25.4] : ["millimetres", 1]);
  const notes: string[] = [];
  if (!UNITS[code]) notes.push(`The file names no unit; it was read in ${name}.`);
  const reader = new Reader(drawing.blocks as Record<string, { position?: Point; entities?: Any[] }>, notes);
  const curves = reader.all(entities, [mm, 0, 0, mm, 0, 0], 0);
  refuseMany(curves.length);
  reader.tellLeftOut();
  if (curves.length === 0) fail("dxf-empty", "This DXF file holds no lines or curves that can be drawn.");
  return { curves, unit: name, notes };
}

function parse(text: string) {
  const parser = new DxfParser();
  parser.registerEntityHandler(SplineWithWeights as never);
  try {
    const drawing = parser.parseSync(text);
    if (drawing) return drawing;
  } catch {
    // The parser's own words name its tokens, which help nobody: the sentence below says what to do.
  }
  return fail("dxf-broken", "This DXF file is broken or cut short, so nothing was brought in. Save the drawing again.");
}

class Reader {
  private readonly leftOut = new Map<string, number>();
  private deviation = 0;

  constructor(
    private readonly blocks: Record<string, { position?: Point; entities?: Any[] }>,
    private readonly notes: string[],
  ) {}

  all(entities: readonly Any[], map: Affine, depth: number): FileCurve[] {
    return entities.flatMap((entity) => this.one(entity, map, depth));
  }

  private one(entity: Any, map: Affine, depth: number): FileCurve[] {
    if (entity.type === "INSERT") return this.block(entity, map, depth);
    const curves = this.curvesOf(entity);
    // Drawn from behind, as after mirroring: the file's own X runs the other way.
    const own = (entity.extrusionDirectionZ ?? 1) < 0 ? followedBy([-1, 0, 0, 1, 0, 0], map) : map;
    return curves.flatMap((curve) => mapFileCurve(own, curve));
  }

  private curvesOf(entity: Any): FileCurve[] {
    switch (entity.type) {
      case "LINE": {
        const [from, to] = entity.vertices ?? [];
        return from && to ? line(flat(from), flat(to)) : [];
      }
      case "POINT":
        return entity.position ? [{ point: flat(entity.position) }] : [];
      case "CIRCLE":
      case "ARC": {
        if (!entity.center || !(entity.radius! > 0)) return [];
        const whole = entity.type === "CIRCLE";
        const [start, end] = whole ? [0, TURN] : [entity.startAngle ?? 0, entity.endAngle ?? TURN];
        const shape = {
          kind: "arc" as const,
          centre: flat(entity.center),
          radius: entity.radius!,
          ...turn(start, end),
        };
        return [{ exact: true, curve: shape }];
      }
      case "ELLIPSE": {
        const axis = entity.majorAxisEndPoint;
        if (!entity.center || !axis || !(entity.axisRatio! > 0)) return [];
        const major = Math.hypot(axis.x, axis.y);
        const turned = Math.atan2(axis.y, axis.x);
        const range = turn(entity.startAngle ?? 0, entity.endAngle ?? TURN);
        const shape = {
          kind: "ellipse" as const,
          centre: flat(entity.center),
          major,
          minor: major * entity.axisRatio!,
          turn: turned,
        };
        return [{ exact: true, curve: { ...shape, ...range } }];
      }
      case "LWPOLYLINE":
      case "POLYLINE":
        return polyline(entity as unknown as Polyline);
      case "SPLINE":
        return this.spline(entity);
      default:
        this.leftOut.set(entity.type, (this.leftOut.get(entity.type) ?? 0) + 1);
        return [];
    }
  }

  private spline({
    controlPoints,
    fitPoints,
    knotValues: knots,
    weights,
    degreeOfSplineCurve: degree = 3,
    closed,
  }: Any): FileCurve[] {
    const points = (controlPoints ?? []).map(flat);
    const sound = knots && knots.length === points.length + degree + 1 && points.length > degree;
    if (!sound) {
      const through = (fitPoints ?? []).map(flat);
      if (through.length < 2) return [];
      return [{ exact: false, points: through, closed: closed ?? false }];
    }
    const even = !weights || weights.every((weight) => Math.abs(weight - weights[0]!) < 1e-12);
    if (even)
      return [{ exact: true, curve: { kind: "spline", poles: { points, knots: unit(knots, degree), degree } } }];
    return [this.rational(points, weights!, unit(knots, degree), degree)];
  }

  /** A rational spline as one through points on it; how far it strays between them is measured and told. */
  private rational(
    points: readonly Vec2[],
    weights: readonly number[],
    knots: readonly number[],
    degree: number,
  ): FileCurve {
    const above = new Poles(
      points.map(([x, y], i): Vec2 => [x * weights[i]!, y * weights[i]!]),
      knots,
      degree,
    );
    const below = new Poles(
      weights.map((weight): Vec2 => [weight, 0]),
      knots,
      degree,
    );
    const at = (t: number): Vec2 => {
      const [[x, y], [w]] = [above.at(t), below.at(t)];
      return [x / w, y / w];
    };
    const COUNT = 96;
    const through = Array.from({ length: COUNT + 1 }, (_, i) => at(i / COUNT));
    for (let i = 1; i + 2 <= COUNT; i++) {
      const [p, a, b, q] = [through[i - 1]!, through[i]!, through[i + 1]!, through[i + 2]!];
      const real = at((i + 0.5) / COUNT);
      const off = [0, 1].map((k) => (-p[k]! + 9 * a[k]! + 9 * b[k]! - q[k]!) / 16 - real[k]!);
      this.deviation = Math.max(this.deviation, Math.hypot(...off));
    }
    const closed = Math.hypot(through[0]![0] - through[COUNT]![0], through[0]![1] - through[COUNT]![1]) < 1e-9;
    return { exact: false, points: closed ? through.slice(0, -1) : through, closed };
  }

  private block(
    { name, position, xScale = 1, yScale = 1, rotation = 0 }: Any,
    map: Affine,
    depth: number,
  ): FileCurve[] {
    const block = this.blocks[name ?? ""];
    // A block that holds itself would never end.
    if (!block?.entities || depth > 8) return [];
    const [bx, by] = block.position ? flat(block.position) : [0, 0];
    const turned = (rotation * Math.PI) / 180;
    const [c, s] = [Math.cos(turned), Math.sin(turned)];
    const placed = followedBy(
      followedBy([xScale, 0, 0, yScale, -bx * xScale, -by * yScale], [c, s, -s, c, 0, 0]),
      position ? [1, 0, 0, 1, position.x, position.y] : IDENTITY,
    );
    return this.all(block.entities, followedBy(placed, map), depth + 1);
  }

  tellLeftOut(): void {
    for (const [type, count] of this.leftOut)
      this.notes.push(`Left out: ${counted(count, "entity", "entities")} of the kind ${type}.`);
    if (this.deviation > 0)
      this.notes.push(
        `A rational spline has no exact form in a sketch; it is drawn to within ${this.deviation.toPrecision(2)} mm.`,
      );
  }
}

const TURN = 2 * Math.PI;
const flat = ({ x, y }: Point): Vec2 => [x, y];

/** Counter-clockwise from one angle to another. */
function turn(start: number, end: number): { start: number; sweep: number } {
  let sweep = end - start;
  while (sweep <= 1e-12) sweep += TURN;
  while (sweep > TURN + 1e-9) sweep -= TURN;
  return { start, sweep };
}

/** Knots from 0 to 1 over the stretch on which the curve is drawn. */
function unit(knots: readonly number[], degree: number): number[] {
  const [low, high] = [knots[degree]!, knots[knots.length - 1 - degree]!];
  return knots.map((knot) => (knot - low) / (high - low));
}

/** A bulge is the tangent of a quarter of the angle that an arc turns through (DXF reference, LWPOLYLINE, code 42). */
function polyline({ vertices = [], shape, closed }: Polyline): FileCurve[] {
  const rounds = shape || closed ? vertices.length : vertices.length - 1;
  return Array.from({ length: Math.max(rounds, 0) }, (_, i): FileCurve[] => {
    const [from, to] = [vertices[i]!, vertices[(i + 1) % vertices.length]!];
    const [a, b] = [flat(from), flat(to)];
    const bulge = from.bulge ?? 0;
    if (Math.abs(bulge) < 1e-12) return line(a, b);
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const chord = Math.hypot(dx, dy);
    if (chord < 1e-12) return [];
    // The centre lies beside the middle of the chord, by (1 − b²) / 4b of it.
    const aside = (1 - bulge * bulge) / (4 * bulge);
    const centre: Vec2 = [(a[0] + b[0]) / 2 - dy * aside, (a[1] + b[1]) / 2 + dx * aside];
    const [first, _second] = bulge > 0 ? [a, b] : [b, a];
    const angle = (p: Vec2) => Math.atan2(p[1] - centre[1], p[0] - centre[0]);
    const radius = Math.hypot(a[0] - centre[0], a[1] - centre[1]);
    return [
      {
        exact: true,
        curve: { kind: "arc", centre, radius, start: angle(first), sweep: 4 * Math.atan(Math.abs(bulge)) },
      },
    ];
  }).flat();
}

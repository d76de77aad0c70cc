import { cross, dot, length, scale, sub, unit, type Vec3 } from "../../kernel";

/** Writes records of a STEP file, each under the next number. */
export class StepPen {
  private readonly lines: string[] = [];

  constructor(private next: number) {}

  write(record: string): number {
    this.lines.push(`#${this.next}=${record};`);
    return this.next++;
  }

  text(): string {
    return this.lines.join("\n");
  }

  point(at: Vec3): number {
    return this.write(`CARTESIAN_POINT('',(${at.map(real).join()}))`);
  }

  direction(way: Vec3): number {
    return this.write(`DIRECTION('',(${unit(way).map(real).join()}))`);
  }

  placement(at: Vec3, axis: Vec3, lead: Vec3): number {
    const z = unit(axis);
    const x = sub(lead, scale(z, dot(lead, z)));
    return this.write(`AXIS2_PLACEMENT_3D('',#${this.point(at)},#${this.direction(z)},#${this.direction(x)})`);
  }

  vector(way: Vec3): number {
    return this.write(`VECTOR('',#${this.direction(way)},${real(length(way))})`);
  }

  line(at: Vec3, way: Vec3): number {
    return this.write(`LINE('',#${this.point(at)},#${this.vector(way)})`);
  }

  plane(at: Vec3, normal: Vec3, lead: Vec3): number {
    return this.write(`PLANE('',#${this.placement(at, normal, lead)})`);
  }

  extrusion(curve: number, way: Vec3): number {
    return this.write(`SURFACE_OF_LINEAR_EXTRUSION('',#${curve},#${this.vector(way)})`);
  }

  /**
   * The ellipse with two conjugate half-diameters, run from the one to the other; a circle where it is one. Its axes are
   * where it is farthest and nearest: at t with tan 2t = 2 u·v / (u² − v²).
   */
  ellipse(middle: Vec3, u: Vec3, v: Vec3): number {
    const t = Math.atan2(2 * dot(u, v), dot(u, u) - dot(v, v)) / 2;
    const at = (angle: number): Vec3 =>
      [0, 1, 2].map((k) => Math.cos(angle) * u[k]! + Math.sin(angle) * v[k]!) as unknown as Vec3;
    const [major, minor] = [at(t), at(t + Math.PI / 2)];
    const [a, b] = [length(major), length(minor)];
    const frame = this.placement(middle, cross(u, v), major);
    if (a - b < 1e-9 * a) return this.write(`CIRCLE('',#${frame},${real(a)})`);
    return this.write(`ELLIPSE('',#${frame},${real(a)},${real(b)})`);
  }

  /** A rational spline surface; poles and weights by row along u, then v. */
  splineSurface(
    u: { degree: number; mults: readonly number[] },
    v: { degree: number; mults: readonly number[] },
    poles: readonly (readonly Vec3[])[],
    weights: readonly (readonly number[])[],
  ): number {
    const grid = poles.map((row) => `(${row.map((at) => `#${this.point(at)}`).join()})`).join();
    const knots = ({ mults }: { mults: readonly number[] }) => `(${mults.map((_, k) => real(k)).join()})`;
    return this.write(
      [
        "(BOUNDED_SURFACE()",
        `B_SPLINE_SURFACE(${u.degree},${v.degree},(${grid}),.UNSPECIFIED.,.F.,.F.,.F.)`,
        `B_SPLINE_SURFACE_WITH_KNOTS((${u.mults.join()}),(${v.mults.join()}),${knots(u)},${knots(v)},.UNSPECIFIED.)`,
        "GEOMETRIC_REPRESENTATION_ITEM()",
        `RATIONAL_B_SPLINE_SURFACE((${weights.map((row) => `(${row.map(real).join()})`).join()}))`,
        "REPRESENTATION_ITEM('')",
        "SURFACE())",
      ].join(" "),
    );
  }
}

/** A real number as the exchange structure writes it: always with a point. */
function real(value: number): string {
  const text = String(value === 0 ? 0 : value);
  if (/e/i.test(text)) {
    const [digits, power] = text.split("e");
    return `${digits!.includes(".") ? digits : `${digits}.`}E${power}`;
  }
  return text.includes(".") ? text : `${text}.`;
}

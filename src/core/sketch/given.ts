import type { CurveShape, Vec2 } from "./curves";
import type { Entity } from "./entities";

/** A curve that a body gives to draw by: exact, or through points. */
export type GivenCurve =
  | { exact: true; curve: GivenShape }
  | { exact: false; points: readonly Vec2[]; closed: boolean };

/** A curve's shape, a spline by its data alone. */
export type GivenShape =
  | Exclude<CurveShape, { kind: "spline" }>
  | { kind: "spline"; poles: { points: readonly Vec2[]; knots: readonly number[]; degree: number } };

/** The entities of a curve, with its points, under ids that begin with one of its own. */
export function givenEntities(id: string, given: GivenCurve, construction: boolean): Entity[] {
  const made: Entity[] = [];
  const place = (mark: string, [x, y]: Vec2): string => {
    made.push({ id: `${id}_${mark}`, type: "point", x, y, construction: true });
    return `${id}_${mark}`;
  };
  const around = (centre: Vec2, angle: number, a: number, b: number, turn: number): Vec2 => {
    const [x, y] = [a * Math.cos(angle), b * Math.sin(angle)];
    return [centre[0] + x * Math.cos(turn) - y * Math.sin(turn), centre[1] + x * Math.sin(turn) + y * Math.cos(turn)];
  };
  const base = { id, construction };
  if (!given.exact) {
    const points = given.points.map((at, i) => place(String(i), at));
    made.push({ ...base, type: "spline", form: "through", points, closed: given.closed });
    return made;
  }
  const { curve } = given;
  switch (curve.kind) {
    case "line":
      made.push({ ...base, type: "line", from: place("a", curve.from), to: place("b", curve.to) });
      break;
    case "arc": {
      const { centre, radius, start, sweep } = curve;
      const middle = place("c", centre);
      if (Math.abs(sweep) >= 2 * Math.PI - 1e-9) made.push({ ...base, type: "circle", centre: middle, radius });
      else {
        const [from, to] = [start, start + sweep].map((angle) => around(centre, angle, radius, radius, 0)) as [
          Vec2,
          Vec2,
        ];
        made.push({ ...base, type: "arc", centre: middle, from: place("a", from), to: place("b", to) });
      }
      break;
    }
    case "ellipse": {
      const { centre, major, minor, turn, start, sweep } = curve;
      const [middle, end] = [place("c", centre), place("m", around(centre, 0, major, minor, turn))];
      const ends = (): { from: string; to: string } => {
        const [from, to] = [start, start + sweep].map((angle) => around(centre, angle, major, minor, turn)) as [
          Vec2,
          Vec2,
        ];
        return { from: place("a", from), to: place("b", to) };
      };
      const part = Math.abs(sweep) >= 2 * Math.PI - 1e-9 ? {} : ends();
      made.push({ ...base, type: "ellipse", centre: middle, major: end, minor, ...part });
      break;
    }
    case "spline": {
      const { points, knots, degree } = curve.poles;
      made.push({
        ...base,
        type: "spline",
        form: "control",
        points: points.map((at, i) => place(String(i), at)),
        closed: false,
        knots: [...knots],
        degree,
      });
    }
  }
  return made;
}

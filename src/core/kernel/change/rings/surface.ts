import type { Elementary } from "../../binary/surfaces";
import type { CircleCurve, LineCurve } from "../../binary/write";
import { add, cross, scale, turned, type Vec3 } from "../../space/vectors";
import { FLAT, type Ring } from "./find";
import { inSpace, type Meridian } from "./meridian";
import type { Round } from "./round";

/** What a ring lies on, with what runs on it in its parameters: u round the axis, v from rim to rim. */
export interface RingSurface {
  surface: Elementary;
  /** The image of an edge that runs round at one of the rims. */
  along(run: Round, rim: 0 | 1): LineCurve;
  /** The image of an edge from one rim to the other, so far from where the ring begins, radians. */
  up(turn: number, from: 0 | 1): LineCurve;
  /** That edge in space. @param outwards where it lies. */
  across(outwards: Vec3, from: 0 | 1): { curve: LineCurve | CircleCurve; long: number };
}

/**
 * A ring's surface: a torus about its middle; a cone, or a cylinder, where it is straight. Its normal points where that of what the library
 * drew does, so that the face lies on it as it did.
 */
export function surfaceOf(ring: Ring): RingSurface {
  const { axis, begin, sweep, rims, middle, radius, away } = ring;
  const [a, b] = rims.map(({ at }) => at) as [Meridian, Meridian];
  const [out, up] = [b[0] - a[0], b[1] - a[1]];
  const slant = Math.hypot(out, up);
  const isRound = Math.abs(out) < FLAT * slant;
  // A cone's axis points to where it is wider. That of a torus may point either way: so that u runs as the ring does.
  const rises = middle ? (away ? 1 : -1) : !isRound && out * up < 0 ? -1 : 1;
  const way = scale(axis.way, rises);
  const hand = away ? 1 : -1;
  // u runs about the axis' way where the frame's hand and the axis agree.
  const runs = hand * rises;
  const x = runs > 0 ? begin : turned(begin, axis.way, sweep);
  const frame = { axis: way, x, y: scale(cross(way, x), hand) };
  const u = (turn: number) => (runs > 0 ? turn : sweep - turn);
  const v: [number, number] = middle ? arcAbout(middle, a, b, rises) : [0, rises * Math.sign(up || 1) * slant];
  const at = inSpace(axis, begin, [0, middle ? middle[1] : a[1]]);
  const surface: Elementary = middle
    ? { kind: "torus", at, ...frame, major: middle[0], minor: radius }
    : isRound
      ? { kind: "cylinder", at, ...frame, radius: a[0] }
      : { kind: "cone", at, ...frame, radius: a[0], half: Math.atan2(Math.abs(out), Math.abs(up)) };
  const upwards = (from: 0 | 1) => Math.sign(v[1 - from]! - v[from]!);
  return {
    surface,
    along: (run, rim) => ({ kind: "line", at: [u(run.begins), v[rim]], way: [run.way * runs, 0] }),
    up: (turn, from) => ({ kind: "line", at: [u(turn), v[from]], way: [0, upwards(from)] }),
    across(outwards, from) {
      const long = Math.abs(v[1] - v[0]);
      const [start, end] = from === 0 ? [a, b] : [b, a];
      const inHalf = (way2: Meridian) => add(scale(outwards, way2[0]), scale(axis.way, way2[1]));
      if (!middle) {
        const along = inHalf([(end[0] - start[0]) / slant, (end[1] - start[1]) / slant]);
        return { curve: { kind: "line", at: inSpace(axis, outwards, start), way: along }, long };
      }
      const first: Meridian = [(start[0] - middle[0]) / radius, (start[1] - middle[1]) / radius];
      // A quarter of a turn on, the way in which v changes.
      const on = rises * upwards(from);
      const next: Meridian = [-on * first[1], on * first[0]];
      return {
        curve: { kind: "circle", at: inSpace(axis, outwards, middle), x: inHalf(first), y: inHalf(next), radius },
        long,
      };
    },
  };
}

/** The angles of two places about a middle, from outwards to the axis' way, the shorter way round; none below 0. */
function arcAbout(middle: Meridian, a: Meridian, b: Meridian, rises: number): [number, number] {
  const angle = (at: Meridian) => Math.atan2(rises * (at[1] - middle[1]), at[0] - middle[0]);
  const first = angle(a);
  const by = angle(b) - first;
  const second = first + by - 2 * Math.PI * Math.round(by / (2 * Math.PI));
  const turn = Math.min(first, second) < 0 ? 2 * Math.PI : 0;
  return [first + turn, second + turn];
}

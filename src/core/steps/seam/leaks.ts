import { type Body, has, type Item } from "../../items";
import {
  areaOf,
  coversOf,
  diagonal,
  distance,
  distanceToPoint,
  facesOf,
  freeShape,
  looseBoxOf,
  nearest,
  openRims,
  pointOnFace,
  type Shape,
  type Vec3,
} from "../../kernel";
import { SAME_PLACE, UNMADE } from "../../tolerance";
import { formatDeviation, formatLength } from "../../units";

/** Where what is between bodies runs out. */
export interface Leak {
  /** As it goes on after “These enclose nothing: ”. */
  words: string;
  places: Vec3[];
  /** Where it runs: each line through its places. */
  paths: Vec3[][];
}

/**
 * Finds where bodies leave open what is between them: gaps between two that nearly meet, the narrowest first; else the longest open
 * rim of a sheet; else the widest opening of a body.
 * @returns null where nothing says so, as with planes that do not meet.
 */
export function leakOf(items: readonly Item[], nameOf: (id: string) => string): Leak | null {
  const bodies = items.flatMap((item) => (has(item, "body") ? [item] : []));
  const it = (body: Body) => (items.length === 1 ? "it" : nameOf(body.id));
  const [gap, ...more] = gapsBetween(bodies);
  if (gap) {
    const others =
      more.length === 0 ? "" : more.length === 1 ? ", and one other gap" : `, and ${more.length} other gaps`;
    const run = runOf(gap);
    const wide = run && run.widest > 1.01 * gap.size ? ` to ${gapWords(run.widest)}` : "";
    const along = run ? ` along ${formatLength(Number(run.length.toPrecision(3)))}` : "";
    return {
      words: `${nameOf(gap.one.id)} and ${nameOf(gap.other.id)} are ${gapWords(gap.size)}${wide} apart${along}${others}`,
      places: [gap, ...more].map(({ at }) => at),
      paths: run?.paths ?? [],
    };
  }
  const [rim] = bodies
    .flatMap((body) => openRims(body.shape).map((open) => ({ ...open, body })))
    .sort((a, b) => b.length - a.length);
  if (rim) {
    const [first] = rim.paths;
    return {
      words: `${it(rim.body)} ends in an open rim ${formatLength(rim.length)} long`,
      places: [first![Math.floor(first!.length / 2)]!],
      paths: rim.paths,
    };
  }
  const [mouth] = bodies
    .flatMap((body) => mouthsOf(body.shape).map((open) => ({ ...open, body })))
    .sort((a, b) => b.size - a.size);
  return mouth ? { words: `${it(mouth.body)} is open here`, places: [mouth.at], paths: [] } : null;
}

const gapWords = (size: number) => (size < UNMADE ? formatDeviation(size) : formatLength(Number(size.toPrecision(3))));

/** Of the smaller body's size: what is nearer to another is meant to meet it. */
const NEARLY = 0.02;
/** Of how many bodies every pair is looked at, and how many gaps are told. */
const MOST = 40;
const TOLD = 5;

function gapsBetween(bodies: readonly Body[]) {
  const sizes = bodies.map(({ shape }) => diagonal(looseBoxOf(shape)!));
  return bodies
    .slice(0, MOST)
    .flatMap((one, i) =>
      bodies.slice(i + 1, MOST).flatMap((other, k) => {
        const near = nearest(one.shape, other.shape);
        const meant = NEARLY * Math.min(sizes[i]!, sizes[i + 1 + k]!);
        return near && near.gap > SAME_PLACE && near.gap < meant
          ? [{ one, other, meant, size: near.gap, at: near.on1 }]
          : [];
      }),
    )
    .sort((a, b) => a.size - b.size)
    .slice(0, TOLD);
}

/** What is so many times as wide as a gap is where it is narrowest is no part of it. */
const ALIKE = 5;

/** Where a gap runs along the open rims of its bodies: how far, how wide it gets, and the lines. Null where none of them is open there. */
function runOf({ one, other, size, meant }: ReturnType<typeof gapsBetween>[number]) {
  const limit = Math.min(meant, ALIKE * size);
  const runs = [
    [one, other],
    [other, one],
  ].map(([own, far]) => {
    let [length, widest]: [number, number] = [0, 0];
    const paths: Vec3[][] = [];
    for (const path of openRims(own!.shape).flatMap((rim) => rim.paths)) {
      const gaps = path.map((at) => distanceToPoint(far!.shape, at)?.gap ?? Number.POSITIVE_INFINITY);
      let run: Vec3[] = [];
      for (const [i, at] of path.entries()) {
        if (gaps[i]! < limit) {
          const last = run.at(-1);
          if (last) length += distance(last, at);
          widest = Math.max(widest, gaps[i]!);
          run.push(at);
        } else if (run.length > 0) {
          paths.push(run);
          run = [];
        }
      }
      paths.push(run);
    }
    return { length, widest, paths: paths.filter((path) => path.length > 1) };
  });
  const [longest] = runs.sort((a, b) => b.length - a.length);
  return longest!.length > 0 ? longest! : null;
}

/** The openings in a body's skin: where, and how large, mm². */
function mouthsOf(shape: Shape): { at: Vec3; size: number }[] {
  const covers = coversOf(shape);
  if (!covers) return [];
  const found = facesOf(covers.shape).map((face) => ({ at: pointOnFace(face), size: areaOf(face) }));
  freeShape(covers.shape);
  return found;
}

import { type Body, has, type Item } from "../../items";
import {
  areaOf,
  coversOf,
  diagonal,
  facesOf,
  freeShape,
  looseBoxOf,
  nearest,
  openEdges,
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
}

/**
 * Finds where bodies leave open what is between them: gaps between two that nearly meet, the narrowest first; else the longest open
 * edge of a sheet; else the widest opening of a body.
 * @returns null where nothing says so, as with planes that do not meet.
 */
export function leakOf(items: readonly Item[], nameOf: (id: string) => string): Leak | null {
  const bodies = items.flatMap((item) => (has(item, "body") ? [item] : []));
  const it = (body: Body) => (items.length === 1 ? "it" : nameOf(body.id));
  const [gap, ...more] = gapsBetween(bodies);
  if (gap) {
    const others =
      more.length === 0 ? "" : more.length === 1 ? ", and one other gap" : `, and ${more.length} other gaps`;
    return {
      words: `${nameOf(gap.one.id)} and ${nameOf(gap.other.id)} are ${gapWords(gap.size)} apart${others}`,
      places: [gap, ...more].map(({ at }) => at),
    };
  }
  const [edge] = bodies
    .flatMap((body) => openEdges(body.shape).map((open) => ({ ...open, body })))
    .sort((a, b) => b.length - a.length);
  if (edge)
    return { words: `${it(edge.body)} ends in an open edge ${formatLength(edge.length)} long`, places: [edge.at] };
  const [mouth] = bodies
    .flatMap((body) => mouthsOf(body.shape).map((open) => ({ ...open, body })))
    .sort((a, b) => b.size - a.size);
  return mouth ? { words: `${it(mouth.body)} is open here`, places: [mouth.at] } : null;
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
        return near && near.gap > SAME_PLACE && near.gap < meant ? [{ one, other, size: near.gap, at: near.on1 }] : [];
      }),
    )
    .sort((a, b) => a.size - b.size)
    .slice(0, TOLD);
}

/** The openings in a body's skin: where, and how large, mm². */
function mouthsOf(shape: Shape): { at: Vec3; size: number }[] {
  const covers = coversOf(shape);
  if (!covers) return [];
  const found = facesOf(covers.shape).map((face) => ({ at: pointOnFace(face), size: areaOf(face) }));
  freeShape(covers.shape);
  return found;
}

import { Groups } from "../../groups";
import { type Curve, cross2, distance2, pointAt, slopeAt, sub2, type Vec2 } from "../curves";
import { along, departure, divide, type Graph, type Stretch, type Walk, wrapped } from "./graph";

/** A stretch of a curve as a boundary runs along it: from one parameter to the other, which may be the smaller. */
export interface BoundaryPart extends Walk {
  curve: Curve;
  from: number;
  to: number;
}

/** A closed region that curves enclose: its outline counter-clockwise, its holes clockwise. */
export interface Region {
  outline: BoundaryPart[];
  holes: BoundaryPart[][];
  /** mm², holes taken off. */
  area: number;
  /** A point well inside. */
  inner: Vec2;
  /** The curves of its outline, each with the side on which the region lies: how it is found again after an edit. */
  key: string;
}

export interface Profile {
  /** The curves, divided where they meet. */
  graph: Graph;
  regions: Region[];
  /** Ends that meet nothing: where an outline is open. */
  openEnds: { at: Vec2; curve: string }[];
}

/** Finds the closed regions that curves enclose, however they cross, with holes nested. */
export function findProfile(curves: readonly Curve[]): Profile {
  const graph = divide(curves.filter(hasLength));
  const { kept, openEnds } = prune(graph);
  return { graph, regions: regionsOf(graph, kept), openEnds };
}

/**
 * Regions as one: where chosen regions share a boundary, it vanishes. Those that touch at most in a point stay apart.
 */
export function mergeRegions({ graph }: Profile, chosen: readonly Region[]): Region[] {
  const uses = new Map<number, number>();
  for (const region of chosen)
    for (const { stretch } of [...region.outline, ...region.holes.flat()])
      uses.set(stretch, (uses.get(stretch) ?? 0) + 1);
  const kept = new Set([...uses].filter(([, count]) => count === 1).map(([stretch]) => stretch));
  return regionsOf(graph, kept).filter((region) => chosen.some(({ inner }) => regionHolds(region, inner)));
}

/** Whether a point lies in a region: within its outline and in none of its holes. */
export function regionHolds({ outline, holes }: Region, at: Vec2): boolean {
  return surrounds(outline, at) && !holes.some((hole) => surrounds(hole, at));
}

/** The regions that are filled when none are chosen: those with an even number of outlines round them. */
export function filledRegions({ regions }: Profile): Region[] {
  return regions.filter(
    ({ inner, outline }) =>
      regions.filter((other) => other.outline !== outline && surrounds(other.outline, inner)).length % 2 === 0,
  );
}

function regionsOf(graph: Graph, kept: ReadonlySet<number>): Region[] {
  const loops = trace(graph, kept);
  const outlines = loops.filter((loop) => loop.area > 0);
  const outsides = loops.filter((loop) => loop.area < 0);
  const holesOf = new Map<Loop, Loop[]>(outlines.map((loop) => [loop, []]));
  for (const outside of outsides) {
    const at = graph.places[outside.walks[0]!.start]!;
    const home = outlines
      .filter((loop) => loop.component !== outside.component && loop.area > -outside.area && surrounds(loop.parts, at))
      .reduce<Loop | null>((best, loop) => (best === null || loop.area < best.area ? loop : best), null);
    if (home) holesOf.get(home)!.push(outside);
  }
  const regions = outlines.map((loop): Region => {
    const holes = holesOf.get(loop)!;
    return {
      outline: loop.parts,
      holes: holes.map((hole) => hole.parts),
      area: loop.area + holes.reduce((sum, hole) => sum + hole.area, 0),
      inner: innerPoint(
        loop.parts,
        holes.map((hole) => hole.parts),
      ),
      key: keyOf(loop.parts),
    };
  });
  return regions.sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : b.area - a.area));
}

const hasLength = (curve: Curve): boolean =>
  curve.closed ||
  distance2(pointAt(curve, 0), pointAt(curve, 1)) > 1e-6 ||
  distance2(pointAt(curve, 0), pointAt(curve, 0.5)) > 1e-6;

/** Takes off, again and again, what ends at a place where nothing else meets it: it bounds nothing. */
function prune({ places, stretches }: Graph) {
  const kept = new Set(stretches.map((_, i) => i));
  const at = places.map(() => new Set<number>());
  stretches.forEach(({ start, end }, i) => {
    at[start]!.add(i);
    at[end]!.add(i);
  });
  const single = (place: number) => {
    const [only, ...others] = at[place]!;
    return only !== undefined && others.length === 0 && stretches[only]!.start !== stretches[only]!.end ? only : null;
  };
  const queue = places.map((_, place) => place).filter((place) => single(place) !== null);
  const openEnds = queue.map((place) => ({ at: places[place]!, curve: stretches[single(place)!]!.curve.id }));
  while (queue.length > 0) {
    const place = queue.pop()!;
    const only = single(place);
    if (only === null) continue;
    const { start, end } = stretches[only]!;
    kept.delete(only);
    at[start]!.delete(only);
    at[end]!.delete(only);
    queue.push(start === place ? end : start);
  }
  return { kept, openEnds };
}

interface Loop {
  walks: { start: number }[];
  parts: BoundaryPart[];
  area: number;
  component: number;
}

/** Walks round every face of the graph, keeping it on the left: outlines come out positive, outsides negative. */
function trace({ places, stretches }: Graph, kept: ReadonlySet<number>): Loop[] {
  const leaving: (Walk & { angle: number; bend: number })[][] = places.map(() => []);
  for (const i of kept) {
    const stretch = stretches[i]!;
    leaving[stretch.start]!.push({ stretch: i, forwards: true, ...departure(stretch, true) });
    leaving[stretch.end]!.push({ stretch: i, forwards: false, ...departure(stretch, false) });
  }
  for (const list of leaving) list.sort(byDirection);
  const component = components(places.length, stretches, kept);
  const done = new Set<string>();
  const loops: Loop[] = [];
  for (const i of kept)
    for (const forwards of [true, false]) {
      if (done.has(`${i}${forwards}`)) continue;
      const walks: Walk[] = [];
      let walk: Walk = { stretch: i, forwards };
      do {
        done.add(`${walk.stretch}${walk.forwards}`);
        walks.push(walk);
        const { start, end } = stretches[walk.stretch]!;
        const list = leaving[walk.forwards ? end : start]!;
        const back = list.findIndex((entry) => entry.stretch === walk.stretch && entry.forwards !== walk.forwards);
        // The next to the right of the way back keeps the face on the left.
        walk = list[(back + list.length - 1) % list.length]!;
      } while (walk.stretch !== i || walk.forwards !== forwards);
      const parts = walks.map((one): BoundaryPart => {
        const { curve, from, to } = stretches[one.stretch]!;
        return one.forwards ? { ...one, curve, from, to } : { ...one, curve, from: to, to: from };
      });
      loops.push({
        walks: walks.map((one) => ({
          start: one.forwards ? stretches[one.stretch]!.start : stretches[one.stretch]!.end,
        })),
        parts,
        area: areaOf(parts),
        component: component[stretches[i]!.start]!,
      });
    }
  return loops;
}

/** Counter-clockwise by direction; of those that leave together, the one that bends more to the left comes later. */
function byDirection(a: { angle: number; bend: number }, b: { angle: number; bend: number }): number {
  const gap = a.angle - b.angle;
  const turn = Math.abs(gap) > Math.PI ? 2 * Math.PI - Math.abs(gap) : Math.abs(gap);
  return turn < 1e-6 ? a.bend - b.bend : gap;
}

function components(count: number, stretches: readonly Stretch[], kept: ReadonlySet<number>): number[] {
  const groups = new Groups(count);
  for (const i of kept) groups.join(stretches[i]!.start, stretches[i]!.end);
  return Array.from({ length: count }, (_, i) => groups.of(i));
}

/** Nodes and weights of Gauss–Legendre integration with eight points (Abramowitz & Stegun, table 25.4). */
const GAUSS = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
] as const;

/** The area that a closed boundary goes round: half the integral of x dy − y dx (Green's theorem), positive to the left. */
export function areaOf(parts: readonly BoundaryPart[]): number {
  return parts.reduce((sum, part) => sum + half(part), 0);
}

function half({ curve, from, to }: BoundaryPart): number {
  const { shape } = curve;
  const [a, b] = [along(curve, from), along(curve, to)];
  if (shape.kind === "line") return cross2(a, b) / 2;
  if (shape.kind === "arc") {
    // The triangle from the origin, and the segment between chord and arc.
    const sweep = shape.sweep * (to - from);
    return cross2(a, b) / 2 + (shape.radius ** 2 / 2) * (sweep - Math.sin(sweep));
  }
  let sum = 0;
  const breaks = breaksBetween(curve, Math.min(from, to), Math.max(from, to));
  for (let i = 0; i + 1 < breaks.length; i++) {
    const [low, high] = [breaks[i]!, breaks[i + 1]!];
    for (const [x, w] of GAUSS)
      for (const sign of [-1, 1]) {
        const t = wrapped(curve, (low + high) / 2 + (sign * x * (high - low)) / 2);
        sum += w * cross2(pointAt(curve, t), slopeAt(curve, t)) * ((high - low) / 2);
      }
  }
  return (from < to ? 1 : -1) * (sum / 2);
}

/** The smooth pieces of a stretch. */
function breaksBetween(curve: Curve, from: number, to: number): number[] {
  const inner =
    curve.shape.kind === "spline"
      ? curve.shape.poles.breaks().flatMap((t) => [t, t + 1])
      : Array.from({ length: 32 }, (_, i) => i / 16);
  return [from, ...inner.filter((t) => t > from + 1e-12 && t < to - 1e-12).sort((a, b) => a - b), to];
}

/** Whether a boundary goes round a point that is not on it: the turns of the line of sight add up to whole ones. */
export function surrounds(parts: readonly BoundaryPart[], at: Vec2): boolean {
  let turn = 0;
  for (const { curve, from, to } of parts) turn += sight(curve, from, to, at, 0);
  return Math.abs(turn) > Math.PI;
}

function sight(curve: Curve, from: number, to: number, at: Vec2, depth: number): number {
  const a = sub2(along(curve, from), at);
  const b = sub2(along(curve, to), at);
  const chord = Math.hypot(a[0] - b[0], a[1] - b[1]);
  const straight = curve.shape.kind === "line";
  // A piece shorter than its distance cannot pass on the point's other side.
  const short = chord < 0.5 * Math.min(Math.hypot(...a), Math.hypot(...b)) && (straight || depth >= 3);
  if (straight || short || depth > 40) return Math.atan2(cross2(a, b), a[0] * b[0] + a[1] * b[1]);
  const middle = (from + to) / 2;
  return sight(curve, from, middle, at, depth + 1) + sight(curve, middle, to, at, depth + 1);
}

/** A point inside an outline and outside its holes: the middle of the widest stretch of a level line that is inside. */
function innerPoint(outline: readonly BoundaryPart[], holes: readonly (readonly BoundaryPart[])[]): Vec2 {
  const chords = [...outline, ...holes.flat()].flatMap((part) => polyline(part));
  const ys = chords.flatMap(([a, b]) => [a[1], b[1]]);
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  let best: { at: Vec2; width: number } | null = null;
  for (const share of [0.5, 0.381966, 0.618034, 0.25, 0.75, 0.1, 0.9, 0.45, 0.03, 0.97]) {
    const y = low + (high - low) * share;
    const xs = chords
      .flatMap(([a, b]) => (a[1] < y === b[1] < y ? [] : [a[0] + ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1])]))
      .sort((a, b) => a - b);
    for (let i = 0; i + 1 < xs.length; i += 2) {
      const width = xs[i + 1]! - xs[i]!;
      if (best === null || width > best.width * 1.2) best = { at: [(xs[i]! + xs[i + 1]!) / 2, y], width };
    }
  }
  return best?.at ?? along(outline[0]!.curve, outline[0]!.from);
}

/** A boundary part as chords, fine enough to find a point inside. */
export function polyline(
  { curve, from, to }: BoundaryPart,
  count = curve.shape.kind === "line" ? 1 : 48,
): [Vec2, Vec2][] {
  return Array.from({ length: count }, (_, i) => [
    along(curve, from + ((to - from) * i) / count),
    along(curve, from + ((to - from) * (i + 1)) / count),
  ]);
}

/** A region is known by the curves round it and the side of each that it lies on; order and place do not matter. */
function keyOf(parts: readonly BoundaryPart[]): string {
  return [...new Set(parts.map(({ curve, from, to }) => `${curve.id}${from < to ? "+" : "-"}`))].sort().join(" ");
}

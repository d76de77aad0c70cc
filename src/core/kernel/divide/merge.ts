import { Groups } from "../../groups";
import { oddGap, widestGap } from "../facts/gaps";
import { areaOf, type FaceMass, faceMass, volumeOf } from "../facts/mass";
import { isValid, openPlaces } from "../facts/measure";
import { adjacency } from "../facts/neighbourhoods";
import { unsoundness } from "../facts/soundness";
import { KernelFault } from "../library/faults";
import { rememberCopy } from "../library/incidence";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import {
  compound,
  facesOf,
  freeShape,
  ownHandle,
  type Shape,
  ShapeMap,
  shapeKind,
  subshapes,
} from "../library/topology";
import { placed } from "../make/transform";
import { add, distance, scale } from "../space/vectors";

export interface Merged {
  shape: Shape;
  /** For each face of the result, the faces of the input (by place) that it was made from. */
  sources: number[][];
}

/** How far a merged body may be off what it was, relative: the quick integration is that good on trimmed curved faces. */
const WEIGHING = 1e-3;

/**
 * Merges neighbouring faces that lie on one surface, and tells what became of each. A merge that opens the skin or
 * changes what it holds is thrown away: better a line too many than a hole.
 * @param keys for each face, text that is equal for faces that lie on one surface.
 * @returns null when there was nothing to merge, or no merge that is sound.
 */
export function mergeFaces(shape: Shape, keys: readonly string[]): Merged | null {
  return orNone(() => tryMerge(shape, keys, true)) ?? orNone(() => tryMerge(shape, keys, false));
}

/** What the library makes of it; null where it fails: the body stands as it is, with a line too many. */
function orNone(merge: () => Merged | null): Merged | null {
  try {
    return merge();
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal) return null;
    throw cause;
  }
}

/**
 * The same for a shape whose faces others share: the library may spoil them while it tries, so it works on a copy, and the faces
 * that it makes have to pass its own check.
 */
export function mergeFacesApart(shape: Shape, keys: readonly string[]): Merged | null {
  return scoped((scope) => {
    const copy = scope.use(placed(shape, { about: [0, 0, 0], axis: [0, 0, 1], angle: 0, by: [0, 0, 0] }));
    rememberCopy(copy, shape);
    const merged = mergeFaces(copy, keys);
    if (!merged) return null;
    const before = new ShapeMap<true>();
    for (const face of facesOf(copy)) before.set(face, true);
    const fresh = facesOf(merged.shape).filter((face) => !before.get(face));
    if (isValid(scope.use(compound(fresh))) && isDrawable(merged.shape)) return merged;
    freeShape(merged.shape);
    return null;
  });
}

/**
 * Whether a merged body can be made triangles of without a hole. Where faces touch themselves along lines with gaps, the
 * library cannot: its triangles leave the whole face out. Anywhere else that was never seen, and is not asked.
 */
function isDrawable(shape: Shape): boolean {
  return oddGap(shape) < NARROW || shapeKind(shape) !== "solid" || unsoundness(shape, "solid") === null;
}

/** Whether the parts of a merged body meet as closely as those of what it was: joined edges can be laid across their faces. */
const meetsAsWell = (merged: Shape, before: Shape) =>
  oddGap(merged) <= WIDE || (widestGap(merged)?.size ?? 0) <= Math.max(NARROW, 2 * (widestGap(before)?.size ?? 0));

/** mm: less than a mill or a printer tells apart, and said elsewhere. */
const WIDE = 1e-3;
/** mm: gaps that the library leaves between faces as a rule. */
const NARROW = 1e-6;

function tryMerge(shape: Shape, keys: readonly string[], edgesToo: boolean): Merged | null {
  return scoped((scope) => {
    const unifier = scope.use(new (lib().ShapeUpgrade_UnifySameDomain)(shape, edgesToo, true, false));
    unifier.AllowInternalEdges(false);
    unifier.SetAngularTolerance(1e-9);
    unifier.Build();
    const whole = scope.use(unifier.Shape());
    const solid = shapeKind(shape) === "solid";
    const results = subshapes(scope, whole, solid ? "solid" : "shell");
    if (results.length !== 1) return null;
    const merged = ownHandle(results[0]!);
    const sources = facesOf(merged).length < facesOf(shape).length ? sourcesOf(shape, merged, keys) : null;
    const measure = solid ? volumeOf : areaOf;
    const size = measure(shape);
    const sound =
      sources &&
      Math.abs(measure(merged) - size) <= WEIGHING * Math.abs(size) &&
      !(solid && openPlaces(merged).length > 0) &&
      meetsAsWell(merged, shape);
    if (sound) return { shape: merged, sources };
    freeShape(merged);
    return null;
  });
}

/**
 * Which faces each face of the merged shape was made from. The library's history of this is out of reach, but what it
 * does is known: neighbours on one surface become one face, which has their area and their common middle.
 * @returns null when a face's sources cannot be told.
 */
function sourcesOf(before: Shape, after: Shape, keys: readonly string[]): number[][] | null {
  const places = new ShapeMap<number>();
  facesOf(before).forEach((face, place) => {
    places.set(face, place);
  });
  const sources = facesOf(after).map((face) => {
    const same = places.get(face);
    return same === undefined ? [] : [same];
  });
  const kept = new Set(sources.flat());
  const gone = facesOf(before).flatMap((_, place) => (kept.has(place) ? [] : [place]));
  const candidates: { faces: number[]; mass: FaceMass }[] = connected(before, gone, keys).map((faces) => ({
    faces,
    mass: total(faces.map((place) => faceMass(before, place))),
  }));
  // Neighbours that the library left apart are each a candidate of their own.
  for (const { faces } of [...candidates])
    if (faces.length > 1) for (const place of faces) candidates.push({ faces: [place], mass: faceMass(before, place) });
  const taken = new Set<number>();
  for (const [place, list] of sources.entries()) {
    if (list.length > 0) continue;
    const mass = faceMass(after, place);
    const found = candidates.find(
      (candidate) => alike(candidate.mass, mass) && !candidate.faces.some((face) => taken.has(face)),
    );
    if (!found) return null;
    for (const face of found.faces) taken.add(face);
    sources[place] = found.faces;
  }
  return taken.size === gone.length ? sources : null;
}

/** Groups of faces that hang together and have one key. */
function connected(shape: Shape, places: readonly number[], keys: readonly string[]): number[][] {
  const { neighbours } = adjacency(shape);
  const groups = new Groups(places.length);
  places.forEach((place, i) => {
    for (const other of neighbours[place]!) {
      const j = places.indexOf(other);
      if (j >= 0 && keys[place] === keys[other]) groups.join(i, j);
    }
  });
  return groups.all().map((group) => group.map((i) => places[i]!));
}

function total(masses: readonly FaceMass[]): FaceMass {
  const area = masses.reduce((sum, mass) => sum + mass.area, 0);
  const moment = masses.map((mass) => scale(mass.centre, mass.area)).reduce(add);
  return { area, centre: scale(moment, 1 / area) };
}

const alike = (a: FaceMass, b: FaceMass) =>
  Math.abs(a.area - b.area) <= 1e-6 * a.area && distance(a.centre, b.centre) <= 1e-5 * Math.sqrt(a.area);

import { hashText } from "../hash";
import type { FaceFacts, Vec3 } from "../kernel";
import { UNMADE } from "../tolerance";

/**
 * Gives every face a name of its own. `bases` are the names that history hands down; faces that share one (a face that
 * was divided) get a suffix drawn from the neighbours that tell them apart, and only where even those agree from
 * their place. Nothing depends on the order of the faces.
 *
 * @param bases the inherited name of each face.
 * @param neighbours for each face, the faces that it meets along an edge. Called only when names repeat.
 * @param centre the centre of a face, for ties. Called only for ties.
 */
export function distinctNames(
  bases: readonly string[],
  neighbours: () => number[][],
  centre: (face: number) => Vec3,
): string[] {
  const sharing = new Map<string, number[]>();
  bases.forEach((base, face) => {
    const list = sharing.get(base);
    if (list) list.push(face);
    else sharing.set(base, [face]);
  });
  if (sharing.size === bases.length) return [...bases];
  const names = [...bases];
  const around = neighbours();
  for (const [base, faces] of sharing) {
    if (faces.length === 1) continue;
    const sets = faces.map((face) => new Set(around[face]!.map((n) => bases[n]!)));
    const common = [...sets[0]!].filter((name) => sets.every((set) => set.has(name)));
    const marks = sets.map((set) =>
      [...set]
        .filter((name) => !common.includes(name))
        .sort()
        .join("|"),
    );
    const order = byPlace(faces, centre);
    faces.forEach((face, i) => {
      const twins = faces.filter((_, j) => marks[j] === marks[i]);
      const tie = twins.length > 1 ? `.${order.filter((f) => twins.includes(f)).indexOf(face) + 1}` : "";
      names[face] = `${base}~${hashText(marks[i]!).slice(0, 4)}${tie}`;
    });
  }
  return names;
}

/** Faces in order of place: by x, then y, then z of the centre, a thousandth of a millimetre counting as equal. */
function byPlace(faces: number[], centre: (face: number) => Vec3): number[] {
  const places = new Map(faces.map((face) => [face, centre(face)] as const));
  return [...faces].sort((a, b) => comparePlaces(places.get(a)!, places.get(b)!));
}

export function comparePlaces(a: Vec3, b: Vec3): number {
  for (let i = 0; i < 3; i++) if (Math.abs(a[i]! - b[i]!) > UNMADE) return a[i]! - b[i]!;
  return 0;
}

/** Names for faces that come from a file, drawn from what they are and where, so that a revised file keeps most of them. */
export function namesFromFacts(step: string, facts: readonly FaceFacts[], neighbours: () => number[][]): string[] {
  const bases = facts.map(({ kind, area, centre, radius }) => {
    const print = [area, ...centre, radius ?? 0]
      .map((value) => (Math.round(value * 100) / 100 + 0).toFixed(2))
      .join(",");
    return `${step}:${kind}:${hashText(print).slice(0, 6)}`;
  });
  return distinctNames(bases, neighbours, (face) => facts[face]!.centre);
}

/** A face's name without the suffixes that dividing gave it. */
export function baseName(name: string): string {
  const cut = name.indexOf("~");
  return cut < 0 ? name : name.slice(0, cut);
}

/** A name without what only its place among others tells: `.2` of the second from the left. */
export const withoutPlace = (name: string): string => name.replace(/\.\d+$/, "");

/** An edge is named by the faces that meet there, a vertex by the faces around it; order never matters. */
export function meetingName(faces: readonly string[]): string {
  return [...new Set(faces)].sort().join("|");
}

import { hashText } from "../hash";
import { surfaceCentre } from "../kernel";
import { comparePlaces } from "../naming";
import { keyOf, type Piece } from "./piece";

/**
 * The keys by which releases before naming by bounds knew pieces: their kind, then what their siblings had not among their
 * faces, then their place in a row. They mean what they meant only as long as nothing was edited.
 */
export function olderKeys(pieces: readonly Piece[]): string[] {
  const keys = pieces.map(({ kind }) => keyOf(kind));
  const kinds = new Map<string, number[]>();
  pieces.forEach(({ kind }, i) => {
    kinds.set(kind, [...(kinds.get(kind) ?? []), i]);
  });
  for (const group of kinds.values()) {
    if (group.length === 1) continue;
    const sets = group.map((i) => [...new Set(pieces[i]!.faces)].sort());
    const common = new Set(sets[0]!.filter((name) => sets.every((set) => set.includes(name))));
    const marks = sets.map((set) => hashText(set.filter((name) => !common.has(name)).join("|")).slice(0, 4));
    const centres = group.map((i) => surfaceCentre(pieces[i]!.shape));
    const order = group.map((_, j) => j).sort((a, b) => comparePlaces(centres[a]!, centres[b]!));
    for (const j of order) {
      const twins = order.filter((other) => marks[other] === marks[j]);
      keys[group[j]!] += `~${marks[j]}${twins.length > 1 ? `.${twins.indexOf(j) + 1}` : ""}`;
    }
  }
  return keys;
}

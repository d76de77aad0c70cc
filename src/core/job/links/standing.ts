import { between, IDENTITY, ownPlace, resolvedPlace, type Transform } from "../../place";
import type { Job, Part } from "../document";
import { scopeOf } from "../parameters";

/** Where a part stands in the job, at one of its places (its own without an id); or why that cannot be told. */
export function standing(
  job: Pick<Job, "parameters">,
  part: Part,
  at = "",
): { transform: Transform } | { problem: string } {
  if (part.places.length === 0 && at === "") return { transform: IDENTITY };
  const scope = scopeOf(job, part);
  const place = part.places.find(({ id }) => id === at);
  if (at !== "" && !place)
    return { problem: `“${part.name}” has no place “${at}” any more. Choose one of its places.` };
  const found = place ? resolvedPlace(place, scope) : ownPlace(part.places, scope);
  return "problem" in found ? { problem: `The place of “${part.name}”: ${found.problem}` } : found;
}

/**
 * How what is drawn in one part lies in another by where both stand; or why that cannot be told.
 * @param at at which of the places of the part that it is of, by id; empty for its own. @param toAt at which of the other's
 */
export function liesIn(
  job: Pick<Job, "parameters">,
  { from, at, to, toAt = "" }: { from: Part; at: string; to: Part; toAt?: string },
): { transform: Transform } | { problem: string } {
  const [one, other] = [standing(job, from, at), standing(job, to, toAt)];
  if ("problem" in one) return one;
  return "problem" in other ? other : { transform: between(one.transform, other.transform) };
}

/** A place of a part: by which id (empty for its own), and what it is called. */
export interface Stand {
  at: string;
  name: string;
}

/** The places of a part, its own first. */
export const standsOf = ({ name, places }: Pick<Part, "name" | "places">): Stand[] => [
  { at: "", name },
  ...places.slice(1).map((place, i) => ({ at: place.id, name: place.name ?? `${name} ${i + 2}` })),
];

import { type Part21Record, pointers } from "./part21";
import { misshapen } from "./record-forms";

type Links = ReadonlyMap<number, readonly number[]>;

/** What a file lacks of itself. */
export interface Damage {
  /** Records that others point to and that are not there, each with the kind of one that needs it. */
  missing: { id: number; neededBy: string }[];
  /** Records that stand in the file more than once. */
  repeated: number[];
  /** Records that are part of themselves. */
  circular: number[];
  /** Records that are not made up as their kind is, or have a number beyond all measures: the library can lose itself in one. */
  spoilt: number[];
  /** Bodies that cannot be had whole, by the number of their record: which of the records above they are made of. */
  bodies: Map<number, number>;
}

/** Skins that may be a body by themselves. */
const SKIN = /^(SHELL_BASED_SURFACE_MODEL|OPEN_SHELL|CLOSED_SHELL)$/;

/** A record that stands for a solid. */
export const isSolid = (record: Part21Record | undefined): boolean =>
  record?.types.some((type) => /^(MANIFOLD_SOLID_BREP|BREP_WITH_VOIDS|FACETED_BREP)$/.test(type)) ?? false;

/** A record that stands for a body. */
export const isBody = (record: Part21Record): boolean =>
  isSolid(record) || record.types.some((type) => SKIN.test(type));

/** Looks for records that are missing, stand twice or are part of themselves, and for the bodies that suffer from it. */
export function findDamage(records: readonly Part21Record[]): Damage {
  const links = linksOf(records);
  const missing = new Map<number, string>();
  for (const { types, body } of records)
    for (const id of pointers(body)) if (!links.has(id) && !missing.has(id)) missing.set(id, types.join(" "));
  const seen = new Set<number>();
  const repeated = new Set<number>();
  for (const { id } of records) {
    if (seen.has(id)) repeated.add(id);
    seen.add(id);
  }
  const circular = circles(links);
  const spoilt = new Set([
    ...records.filter(({ body }) => hasWildNumber(body)).map(({ id }) => id),
    ...misshapen(records),
  ]);
  const bad = new Set([...missing.keys(), ...repeated, ...circular, ...spoilt]);
  const bodies = new Map<number, number>();
  if (bad.size > 0)
    for (const record of records) {
      const fault = isBody(record) ? [...reached([record.id], links)].find((id) => bad.has(id)) : undefined;
      if (fault !== undefined) bodies.set(record.id, fault);
    }
  return {
    missing: [...missing].map(([id, neededBy]) => ({ id, neededBy })),
    repeated: [...repeated],
    circular: [...circular],
    spoilt: [...spoilt],
    bodies,
  };
}

/** Beyond it nothing that is made has a measure, in any unit. */
const WILD = 1e12;

/** Whether a number in a record's text is beyond all measures; only those with ten digits or an exponent can be. */
function hasWildNumber(body: string): boolean {
  if (!/[\d.]E\+?\d|\d{10}/i.test(body)) return false;
  const numbers = body.replace(/'(?:[^']|'')*'|#\d+/g, "").match(/[-+]?\d+\.?\d*(?:E[-+]?\d+)?/gi) ?? [];
  return numbers.some((number) => !(Math.abs(Number(number)) < WILD));
}

/** What each record points to. */
export function linksOf(records: readonly Part21Record[]): Links {
  const links = new Map<number, number[]>();
  for (const { id, body } of records) links.set(id, [...(links.get(id) ?? []), ...pointers(body)]);
  return links;
}

/** Everything that records are made of, themselves included. */
export function reached(from: Iterable<number>, links: Links): Set<number> {
  const seen = new Set<number>(from);
  const open = [...seen];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const next of links.get(id) ?? [])
      if (!seen.has(next)) {
        seen.add(next);
        open.push(next);
      }
  return seen;
}

/** The records at which walking from record to record comes back: one of each circle. */
function circles(links: Links): Set<number> {
  const found = new Set<number>();
  /** 1: on the way; 2: done. */
  const state = new Map<number, 1 | 2>();
  for (const start of links.keys()) {
    if (state.has(start)) continue;
    const way: { id: number; next: number }[] = [{ id: start, next: 0 }];
    state.set(start, 1);
    for (let top = way.at(-1); top; top = way.at(-1)) {
      const target = links.get(top.id)?.[top.next++];
      if (target === undefined) {
        state.set(top.id, 2);
        way.pop();
      } else if (state.get(target) === 1) found.add(target);
      else if (!state.has(target) && links.has(target)) {
        state.set(target, 1);
        way.push({ id: target, next: 0 });
      }
    }
  }
  return found;
}

/** The records that are faces. */
export const faceRecords = (records: readonly Part21Record[]): ReadonlySet<number> =>
  new Set(
    records
      .filter(({ types }) => types.some((type) => type === "ADVANCED_FACE" || type === "FACE_SURFACE"))
      .map(({ id }) => id),
  );

/** How many faces a body is made of. */
export function facesListed(body: number, faces: ReadonlySet<number>, links: Links): number {
  let count = 0;
  for (const id of reached([body], links)) if (faces.has(id)) count++;
  return count;
}

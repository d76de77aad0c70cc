import { type Damage, findDamage, isBody, linksOf, reached } from "./damage";
import { type Part21Record, parseData, parseRecords, pointers, splitArguments, textOf } from "./part21";

export interface Salvaged {
  /** The file as it may be read. */
  bytes: Uint8Array;
  /** Its records. */
  records: Part21Record[];
  /** What was wrong with it; the bodies are those that were given up. Null where nothing was. */
  damage: Damage | null;
  /** The lines of statements that are no records, and were passed over. */
  brokenLines: number[];
  /** How many edges lost what they look like on their faces, and are taken from space alone: nothing is lost by it. */
  edgesMended: number;
}

/** Curves in space that carry their images on surfaces with them. */
const WITH_IMAGES = /^(SURFACE_CURVE|SEAM_CURVE|INTERSECTION_CURVE|BOUNDED_SURFACE_CURVE)$/;

/** What stands in a file in the place of a record that must not be read: it makes nothing. */
const NOTHING = "CARTESIAN_POINT('',(0.,0.,0.))";

/**
 * Makes of a damaged file one that can be read: edges whose images on faces are damaged keep their curve in space, and
 * bodies that are made of what is not there are taken out whole. Their records stay, so that what points to them still
 * finds something, but make nothing.
 */
export function salvage(bytes: Uint8Array): Salvaged {
  const { records, broken } = parseData(bytes);
  const damage = findDamage(records);
  const { missing, repeated, circular, spoilt } = damage;
  const bad = new Set([...missing.map(({ id }) => id), ...repeated, ...circular, ...spoilt]);
  if (bad.size + broken.length === 0) return { bytes, records, damage: null, brokenLines: [], edgesMended: 0 };

  const links = linksOf(records);
  const isWhole = (id: number) => ![...reached([id], links)].some((inside) => bad.has(inside));
  const instead = new Map<number, number>();
  for (const { id, types, body } of records) {
    if (!types.some((type) => WITH_IMAGES.test(type)) || bad.has(id) || isWhole(id)) continue;
    const [inSpace] = pointers(splitArguments(body)[1] ?? "");
    if (inSpace !== undefined && isWhole(inSpace)) instead.set(id, inSpace);
  }
  const redirected = records.map((record) => ({ ...record, body: redirect(record.body, instead) }));
  const after = findDamage(redirected);
  const linksAfter = linksOf(redirected);
  const kept = reached(
    redirected.filter((record) => isBody(record) && !after.bodies.has(record.id)).map(({ id }) => id),
    linksAfter,
  );
  const dropped = reached([...after.bodies.keys(), ...instead.keys()], links);
  const text = textOf(bytes);
  const parts: string[] = [];
  let done = 0;
  for (const record of [...records, ...broken].sort((one, two) => one.from - two.from)) {
    parts.push(text.slice(done, record.from));
    done = record.to;
    // A statement that is no record goes, with its semicolon.
    if (!("id" in record)) done++;
    else if (dropped.has(record.id) && !kept.has(record.id)) parts.push(`\n#${record.id}=${NOTHING}`);
    else
      parts.push(
        instead.has(record.id) ? text.slice(record.from, done) : redirect(text.slice(record.from, done), instead),
      );
  }
  parts.push(text.slice(done));
  const mended = new TextEncoder().encode(parts.join(""));
  return {
    bytes: mended,
    records: parseRecords(mended),
    damage: { ...damage, bodies: after.bodies },
    brokenLines: broken.map(({ line }) => line),
    edgesMended: instead.size,
  };
}

/** Text with its pointers turned elsewhere; strings stay as they are. */
function redirect(text: string, instead: ReadonlyMap<number, number>): string {
  if (instead.size === 0) return text;
  return text.replace(/'(?:[^']|'')*'|#(\d+)/g, (all, id?: string) => {
    const other = id === undefined ? undefined : instead.get(Number(id));
    return other === undefined ? all : `#${other}`;
  });
}

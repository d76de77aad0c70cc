import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";

const encoder = new TextEncoder();

/** SHA-256 as hex. The same in a browser and in Node, and at once, which a key needs. */
export function hashBytes(bytes: Uint8Array): string {
  return bytesToHex(sha256(bytes));
}

/** Hashes of texts asked for before: names and build sheets that did not change ask for the same ones on every edit. */
const known = new Map<string, string>();
const KNOWN_LIMIT = 2000;
/** Longer texts are hashed anew: they are rare, and would fill the memory. */
const KNOWN_LENGTH = 4000;

export function hashText(text: string): string {
  if (text.length > KNOWN_LENGTH) return hashBytes(encoder.encode(text));
  const before = known.get(text);
  if (before !== undefined) return before;
  const hash = hashBytes(encoder.encode(text));
  if (known.size >= KNOWN_LIMIT) known.clear();
  known.set(text, hash);
  return hash;
}

/** JSON with the keys of every object in order, so that equal values give equal text. */
export function canonical(value: unknown): string {
  return written(value) ?? "null";
}

/** A value as JSON; undefined for what JSON leaves out. */
function written(value: unknown): string | undefined {
  if (typeof value === "number") return Number.isFinite(value) ? String(value) : "null";
  if (typeof value !== "object" || value === null) return JSON.stringify(value);
  if (Array.isArray(value)) {
    let text = "";
    for (const item of value) text += `${text ? "," : ""}${written(item) ?? "null"}`;
    return `[${text}]`;
  }
  let text = "";
  for (const key of Object.keys(value).sort()) {
    const item = written((value as Record<string, unknown>)[key]);
    if (item !== undefined) text += `${text ? "," : ""}${JSON.stringify(key)}:${item}`;
  }
  return `{${text}}`;
}

export function hashValue(value: unknown): string {
  return hashText(canonical(value));
}

import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";

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
  const before = known.get(text);
  if (before !== undefined) return before;
  const hash = hashBytes(utf8ToBytes(text));
  if (text.length > KNOWN_LENGTH) return hash;
  if (known.size >= KNOWN_LIMIT) known.clear();
  known.set(text, hash);
  return hash;
}

/** JSON with the keys of every object in order, so that equal values give equal text. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_key, inner) =>
    inner && typeof inner === "object" && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)))
      : inner,
  );
}

export function hashValue(value: unknown): string {
  return hashText(canonical(value));
}

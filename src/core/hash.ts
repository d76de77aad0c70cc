import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";

/** SHA-256 as hex. The same in a browser and in Node, and at once, which a key needs. */
export function hashBytes(bytes: Uint8Array): string {
  return bytesToHex(sha256(bytes));
}

export function hashText(text: string): string {
  return hashBytes(utf8ToBytes(text));
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

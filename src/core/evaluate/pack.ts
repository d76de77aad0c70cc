import { gunzipSync, gzipSync, strFromU8, strToU8 } from "fflate";

const KINDS = { Float32Array, Uint32Array, Uint8Array } as const;
type Kind = keyof typeof KINDS;

/**
 * Plain values with typed arrays in them as compressed bytes: a JSON head in which each array is a pointer,
 * then the arrays one after another on 4-byte borders.
 */
export function pack(value: unknown): Uint8Array {
  const arrays: Uint8Array[] = [];
  let size = 0;
  const head = JSON.stringify(value, (_key, inner) => {
    const kind = ArrayBuffer.isView(inner) ? (inner.constructor.name as Kind) : undefined;
    if (!kind || !(kind in KINDS)) return inner;
    const view = inner as Uint8Array;
    const pointer = { $array: [kind, size, view.byteLength] };
    arrays.push(new Uint8Array(view.buffer, view.byteOffset, view.byteLength));
    size += Math.ceil(view.byteLength / 4) * 4;
    return pointer;
  });
  const text = strToU8(head);
  const start = 8 + Math.ceil(text.length / 4) * 4;
  const bytes = new Uint8Array(start + size);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, 0x42534b31);
  view.setUint32(4, text.length, true);
  bytes.set(text, 8);
  let at = start;
  for (const array of arrays) {
    bytes.set(array, at);
    at += Math.ceil(array.byteLength / 4) * 4;
  }
  return gzipSync(bytes, { level: 4 });
}

/** What `pack` made, again. Throws on anything else. */
export function unpack(packed: Uint8Array): unknown {
  const bytes = gunzipSync(packed);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0) !== 0x42534b31) throw new Error("not a packed value");
  const length = view.getUint32(4, true);
  const start = 8 + Math.ceil(length / 4) * 4;
  return JSON.parse(strFromU8(bytes.subarray(8, 8 + length)), (_key, inner) => {
    const pointer = (inner as { $array?: [Kind, number, number] } | null)?.$array;
    if (!pointer) return inner;
    const [kind, offset, size] = pointer;
    const from = bytes.byteOffset + start + offset;
    return new KINDS[kind](bytes.buffer.slice(from, from + size));
  });
}

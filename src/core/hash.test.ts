import fc from "fast-check";
import { expect, test } from "vitest";
import { canonical, hashText, hashValue } from "./hash";

test("any JSON value is written so that it reads back as it was, whatever the order of its keys", () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      const text = canonical(value);
      expect(JSON.stringify(JSON.parse(text))).toBe(JSON.stringify(JSON.parse(JSON.stringify(sorted(value)))));
      expect(canonical(JSON.parse(text))).toBe(text);
    }),
  );
  expect(canonical({ b: 1, a: { d: [2, null], c: "“é”" } })).toBe('{"a":{"c":"“é”","d":[2,null]},"b":1}');
  expect(canonical({ b: undefined, a: [undefined, Number.NaN, -0] })).toBe('{"a":[null,null,0]}');
});

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== "object" || value === null) return value;
  const record = value as Record<string, unknown>;
  return Object.fromEntries(
    Object.keys(record)
      .sort()
      .map((key) => [key, sorted(record[key])]),
  );
}

test("hashes are SHA-256: the value of FIPS 180-2, appendix B.1", () => {
  expect(hashText("abc")).toBe("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
  expect(hashValue({ b: 1, a: 2 })).toBe(hashValue({ a: 2, b: 1 }));
});

import type { Random } from "./random";

/** Values that no field expects, or that few do. */
const ODD: unknown[] = [
  null,
  "",
  "x",
  -1,
  0,
  0.5,
  1e-9,
  1e9,
  1e308,
  [],
  {},
  true,
  [[]],
  "1/0",
  "=1",
  "width",
  "a:block",
  "\u0000",
  "x".repeat(300),
  [1, 2],
  { kind: "x" },
];

interface Place {
  holder: Record<string, unknown> | unknown[];
  key: string | number;
}

/** Every place of a value that holds another. */
function placesOf(value: unknown, found: Place[] = []): Place[] {
  if (typeof value !== "object" || value === null) return found;
  for (const key of Array.isArray(value) ? value.keys() : Object.keys(value)) {
    found.push({ holder: value as Place["holder"], key });
    placesOf((value as Record<string | number, unknown>)[key], found);
  }
  return found;
}

/**
 * A copy of a value with one to three things wrong with it: replaced by something odd or by what stands elsewhere, left out,
 * there twice, under another name.
 */
export function spoilt(value: unknown, random: Random): unknown {
  const copy = structuredClone(value);
  for (let times = 1 + Math.floor(random.next() * 3); times > 0; times--) {
    const places = placesOf(copy);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random.next() * list.length)]!;
    if (places.length === 0) break;
    const { holder, key } = pick(places);
    const at = holder as Record<string | number, unknown>;
    switch (Math.floor(random.next() * 6)) {
      case 0:
        if (Array.isArray(holder)) holder.splice(Number(key), 1);
        else delete at[key];
        break;
      case 1: {
        const other = pick(places);
        at[key] = structuredClone((other.holder as Record<string | number, unknown>)[other.key]);
        break;
      }
      case 2:
        if (Array.isArray(holder)) holder.push(structuredClone(at[key]));
        else at[`${key}s`] = at[key];
        break;
      case 3:
        if (typeof at[key] === "number") at[key] = (at[key] as number) * pick([-1, 0, 1e-6, 1e6, 1 + 1e-9]);
        else at[key] = pick(ODD);
        break;
      default:
        at[key] = pick(ODD);
    }
  }
  return copy;
}

/** A text with some letters wrong: one changed, some cut out, or the end missing. */
export function spoiltText(text: string, random: Random): string {
  const at = Math.floor(random.next() * text.length);
  switch (Math.floor(random.next() * 4)) {
    case 0:
      return text.slice(0, at) + String.fromCharCode(32 + Math.floor(random.next() * 95)) + text.slice(at + 1);
    case 1:
      return text.slice(0, at) + text.slice(at + 1 + Math.floor(random.next() * 40));
    case 2:
      return text.slice(0, at);
    default:
      return text.slice(0, at) + text.slice(Math.floor(random.next() * text.length), at + 60) + text.slice(at);
  }
}

/** Words that only those who wrote the program understand: no sentence for a person holds one. */
export const JARGON =
  /expected |received|Invalid|undefined|\bNaN\b|\[object|Unrecognized|TypeError|Cannot read|is not a function|Maximum call|\bat \S+ \(|invalid_|ZodError|wasm|[a-z]+\.\d+\.[a-z]/;

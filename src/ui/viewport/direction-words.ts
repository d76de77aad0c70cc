type Vec = readonly [number, number, number];

/** Which way each axis of the model runs, as a workshop says it. */
const WORDS = [
  ["right", "left"],
  ["back", "front"],
  ["up", "down"],
] as const;

/** Nearer to an axis than this, as a cosine, and a direction is called after it. */
const ALONG = 0.999;

function axisOf(direction: Vec): { axis: number; sign: 0 | 1 } | null {
  const axis = direction.findIndex((value) => Math.abs(value) > ALONG);
  return axis < 0 ? null : { axis, sign: direction[axis]! > 0 ? 0 : 1 };
}

/** `up`, `left` …; null where it runs along no axis. */
export function directionWord(direction: Vec): string | null {
  const found = axisOf(direction);
  return found && WORDS[found.axis]![found.sign];
}

/** `X`, `−Z` …, with its word: `−X, left`; `aslant` where it runs along no axis. */
export function directionName(direction: Vec): string {
  const found = axisOf(direction);
  return found ? `${found.sign === 0 ? "" : "−"}${"XYZ"[found.axis]}, ${WORDS[found.axis]![found.sign]}` : "aslant";
}

/** What a quantity measures, as powers of length and of angle: a plain number is 0 and 0, an area 2 and 0. */
export interface Powers {
  length: number;
  angle: number;
}

/** A number with what it measures: millimetres and radians inside. */
export interface Measured extends Powers {
  value: number;
}

export const PLAIN: Powers = { length: 0, angle: 0 };
export const LENGTH: Powers = { length: 1, angle: 0 };
export const ANGLE: Powers = { length: 0, angle: 1 };

export const plain = (value: number): Measured => ({ value, length: 0, angle: 0 });

export const samePowers = (a: Powers, b: Powers): boolean =>
  Math.abs(a.length - b.length) < 1e-9 && Math.abs(a.angle - b.angle) < 1e-9;

export const isPlain = (a: Powers): boolean => samePowers(a, PLAIN);

/** What values of some powers of length and angle are called in a sentence. */
export function powersInWords({ length, angle }: Powers): string {
  const parts: string[] = [];
  if (length === 1) parts.push("a length");
  else if (length === 2) parts.push("an area");
  else if (length === 3) parts.push("a volume");
  else if (length !== 0) parts.push(`a length to the power ${round(length)}`);
  if (angle === 1) parts.push("an angle");
  else if (angle !== 0) parts.push(`an angle to the power ${round(angle)}`);
  return parts.length === 0 ? "a plain number" : parts.join(" times ");
}

const round = (value: number) => Math.round(value * 1000) / 1000;

/** Lengths as a workshop writes them. Inside, every length is a number of millimetres and every angle of radians. */
export type LengthUnit = "mm" | "inch";

/** Millimetres in each unit of length that a person may write. */
export const LENGTH_UNITS: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: 25.4,
  inch: 25.4,
  inches: 25.4,
  '"': 25.4,
  "″": 25.4,
  thou: 0.0254,
  ft: 304.8,
};

/** Radians in each unit of angle. */
export const ANGLE_UNITS: Record<string, number> = { deg: Math.PI / 180, "°": Math.PI / 180, rad: 1 };

export type Parsed = { ok: true; value: number } | { ok: false; problem: string };

const NUMBER =
  /^([+-]?)\s*(?:(\d+)[\s-]+(\d+)\s*\/\s*(\d+)|(\d+)\s*\/\s*(\d+)|(\d+(?:\.\d*)?(?:e[+-]?\d+)?|\.\d+(?:e[+-]?\d+)?))\s*(.*)$/i;

/**
 * Reads `12`, `12 mm`, `0.5 in`, `1/2 in`, `3 1/8 in`, `3 1/8"`, `-2.5mm`.
 * @param text what a person typed.
 * @param bare what a number without a unit is counted in.
 * @returns millimetres, or one sentence that says what to write instead.
 */
export function parseLength(text: string, bare: LengthUnit = "mm"): Parsed {
  return parseQuantity(text, LENGTH_UNITS, bare === "mm" ? 1 : 25.4, "a length such as 12 mm, 0.5 in or 3 1/8 in");
}

/** Reads `30`, `30 deg`, `30°`, `0.5 rad`; a bare number is degrees. Radians out. */
export function parseAngle(text: string): Parsed {
  return parseQuantity(text, ANGLE_UNITS, Math.PI / 180, "an angle such as 30 deg or 0.5 rad");
}

function parseQuantity(text: string, units: Record<string, number>, bare: number, example: string): Parsed {
  const trimmed = text.trim();
  if (trimmed.length > 200) return { ok: false, problem: `That is too long to be a number; write ${example}.` };
  const match = NUMBER.exec(trimmed);
  if (!match) return { ok: false, problem: `“${trimmed}” is not a number; write ${example}.` };
  const [, sign, whole, above, below, onlyAbove, onlyBelow, decimal, unitText] = match;
  let value: number;
  if (whole !== undefined) value = Number(whole) + Number(above) / Number(below);
  else if (onlyAbove !== undefined) value = Number(onlyAbove) / Number(onlyBelow);
  else value = Number(decimal);
  const unit = (unitText ?? "").trim().toLowerCase();
  const factor = unit === "" ? bare : units[unit];
  if (factor === undefined) return { ok: false, problem: `“${unit}” is not a unit known here; write ${example}.` };
  value *= factor * (sign === "-" ? -1 : 1);
  if (!Number.isFinite(value)) return { ok: false, problem: `“${trimmed}” has no finite value; write ${example}.` };
  return { ok: true, value };
}

/** Whether what was typed names its unit, so that it means the same in every job. */
export function namesUnit(text: string): boolean {
  return /[a-z"″°]\s*$/i.test(text.trim());
}

/** Millimetres as a person reads them: up to three decimals of a millimetre, four of an inch. */
export function formatLength(mm: number, unit: LengthUnit = "mm"): string {
  return unit === "mm" ? `${trim(mm, 3)} mm` : `${trim(mm / 25.4, 4)} in`;
}

/** How far something may be off, mm, rounded up to two places that count: `0.0000049 mm`. */
export function formatDeviation(mm: number): string {
  if (mm <= 0) return "0 mm";
  const digits = Math.min(12, Math.max(0, 1 - Math.floor(Math.log10(mm))));
  const step = 10 ** -digits;
  return `${(Math.ceil(mm / step - 1e-9) * step).toFixed(digits)} mm`;
}

/** An inch length as a mixed fraction to the 64th where it is one exactly, else null: `3 1/8`. */
export function asFraction(mm: number): string | null {
  const sixtyFourths = (Math.abs(mm) / 25.4) * 64;
  const count = Math.round(sixtyFourths);
  if (Math.abs(sixtyFourths - count) > 1e-6) return null;
  const whole = Math.floor(count / 64);
  let above = count % 64;
  let below = 64;
  while (above > 0 && above % 2 === 0) {
    above /= 2;
    below /= 2;
  }
  const sign = mm < 0 && count > 0 ? "-" : "";
  if (above === 0) return `${sign}${whole}`;
  return whole === 0 ? `${sign}${above}/${below}` : `${sign}${whole} ${above}/${below}`;
}

export function formatArea(mm2: number, unit: LengthUnit = "mm"): string {
  if (unit === "inch") return `${significant(mm2 / 645.16)} in²`;
  return Math.abs(mm2) >= 1e4 ? `${significant(mm2 / 100)} cm²` : `${significant(mm2)} mm²`;
}

/**
 * A volume as a workshop says it: mm³ or cm³, in³ where inches are shown. @param mm3 mm³
 * @param within how far it may be off, mm³, where it cannot be had exactly: said behind it.
 */
export function formatVolume(mm3: number, unit: LengthUnit = "mm", within = 0): string {
  const [size, name] = unit === "inch" ? [16387.064, "in³"] : Math.abs(mm3) >= 1e4 ? [1000, "cm³"] : [1, "mm³"];
  const off = within > 0 ? ` ± ${significant(within / size)}` : "";
  return `${significant(mm3 / size)}${off} ${name}`;
}

/** A mass as a workshop says it: grams or kilograms; ounces or pounds where inches are shown. @param g grams */
export function formatMass(g: number, unit: LengthUnit = "mm"): string {
  if (unit === "inch") {
    const ounces = g / 28.349523125;
    return ounces >= 16 ? `${significant(ounces / 16)} lb` : `${significant(ounces)} oz`;
  }
  return g >= 1000 ? `${significant(g / 1000)} kg` : `${significant(g)} g`;
}

export function formatAngle(degrees: number): string {
  return `${trim(degrees, 3)}°`;
}

function significant(value: number): string {
  const size = Math.abs(value);
  return trim(value, size >= 1000 ? 0 : size >= 100 ? 1 : size >= 1 ? 2 : 4);
}

function trim(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  const short = text.includes(".") ? text.replace(/\.?0+$/, "") : text;
  return short === "-0" ? "0" : short.replace("-", "−");
}

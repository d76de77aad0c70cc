import { asFraction, formatLength as formatExact, type LengthUnit } from "@/core/units";
import { settings } from "./settings";

export { formatAngle, formatArea, formatDeviation, formatMass, formatVolume } from "@/core/units";

/** A length as this person wants lengths: with so many places, and in inches as a fraction where it is one. */
export function formatLength(mm: number, unit: LengthUnit = "mm"): string {
  const { decimals, fractions } = settings.getState();
  if (unit === "inch" && fractions > 0) {
    const fraction = asFraction(mm);
    const below = fraction?.match(/\/(\d+)$/)?.[1];
    if (fraction !== null && Number(below ?? 1) <= fractions) return `${fraction.replace("-", "−")} in`;
  }
  const places = unit === "mm" ? decimals : decimals + 1;
  const size = unit === "mm" ? mm : mm / 25.4;
  const rounded = Math.round(size * 10 ** places) / 10 ** places;
  return formatExact(unit === "mm" ? rounded : rounded * 25.4, unit);
}

import { SeamError } from "../../errors";
import { type Fit, fitOf, type Limits } from "../../fit/iso286";
import { roundOf, type Shape, surfacesOf } from "../../kernel";

/** How far what is left keeps off a cylindrical face under a fit, mm, and what the fit comes to, in a sentence. */
export interface FitGap {
  gap: number;
  words: string;
}

/**
 * What a face of a cutter keeps under a fit by ISO 286, the face's diameter being the nominal size: what is cut is drawn at the middle of its
 * limits. Round a bar that is a hole; in a bore, the shaft that is left standing in it.
 * @param place the face, by place. @returns null for a face that is not cylindrical. @throws SeamError `fit-class`, `fit-size`
 */
export function fitGap(
  shape: Shape,
  place: number,
  text: string,
  where: { step: string; field: string },
): FitGap | null {
  if (surfacesOf(shape)[place]?.kind !== "cylinder") return null;
  const { radius, outward } = roundOf(shape, place)!;
  const size = 2 * radius;
  const fit = fitAt(size, text, where);
  const [own, mate] = outward ? [fit.hole, fit.shaft] : [fit.shaft, fit.hole];
  const middle = (own.least + own.most) / 2;
  const [drawn, other] = outward ? ["hole", "shaft"] : ["shaft", "hole"];
  return {
    gap: (outward ? 1 : -1) * (middle - size) * 0.5,
    words: `Ø${mm(size)} ${text}: the ${drawn} is drawn at ${mm(middle)} mm, the middle of ${limits(own)}. The ${other} is made to ${limits(mate)}: ${between(fit)}.`,
  };
}

function fitAt(size: number, text: string, where: { step: string; field: string }): Fit {
  try {
    return fitOf(size, text);
  } catch (cause) {
    throw cause instanceof SeamError ? new SeamError({ ...cause.trouble, ...where }) : cause;
  }
}

/** Limits are micrometres, and the middle of two of them half of one. */
const mm = (value: number) => String(Math.round(value * 1e4) / 1e4);
const limits = ({ least, most }: Limits) => `${mm(least)} to ${mm(most)} mm`;

function between({ leastGap, mostGap, kind }: Fit): string {
  switch (kind) {
    case "clearance":
      return `${mm(leastGap)} to ${mm(mostGap)} mm of play`;
    case "interference":
      return `pressed in by ${mm(-mostGap)} to ${mm(-leastGap)} mm`;
    case "transition":
      return `from ${mm(-leastGap)} mm of press to ${mm(mostGap)} mm of play`;
  }
}

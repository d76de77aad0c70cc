import type { Body } from "../../items";
import { curvingOf } from "../../kernel";

/**
 * The faces of a body that have no closed form, by place. What is tried with them takes seconds each time: where something
 * does not fit, nothing else is looked for that would.
 */
export const freeFacesOf = ({ shape, faces }: Body): number[] =>
  faces.flatMap((_, place) => (curvingOf(shape, place) ? [place] : []));

/** What is said where it was not looked for what would fit. */
export const NOT_SOUGHT =
  "It has free faces, so that it takes long to try: what would fit was not looked for. Take less.";

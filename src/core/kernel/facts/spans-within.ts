import { pointsOf } from "../binary";
import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";

/** How much of a span a face has to reach into for lying in it: a part of the curve's whole run. */
const EDGE = 1e-6;

/** Where along each of its edges a face is looked at. */
const LOOKS = Array.from({ length: 17 }, (_, i) => i / 16);

/**
 * Which of the spans between the knots of the curve that a face was drawn out from what is left of the face lies in.
 * @param count how many distinct knots the curve has to have: with any other it is not the one that is meant.
 * @returns the places of the knots that the spans begin at, from 0, in order; none where that cannot be told.
 */
export function spansWithin(face: Shape, count: number): number[] {
  const [own] = incidenceOf(face).faces;
  const of = own?.surface?.kind === "extrusion" ? own.surface.of : null;
  const spline = of?.kind === "spline" ? of.spline?.() : undefined;
  if (!own || !spline || spline.periodic) return [];
  const knots = [...new Set(spline.knots)];
  if (knots.length !== count) return [];
  const along: number[] = [];
  for (const use of own.wires.flat()) {
    const image = own.image(use);
    const point = image && pointsOf(image.curve);
    if (!point) return [];
    for (const share of LOOKS) along.push(point(image.from + share * (image.to - image.from)).at[0]!);
  }
  const [low, high] = [Math.min(...along), Math.max(...along)];
  const room = EDGE * (knots.at(-1)! - knots[0]!);
  return knots.slice(1).flatMap((end, i) => (high > knots[i]! + room && low < end - room ? [i] : []));
}

import type { Body } from "../items";
import { allFaceFacts, bowsOf, cross, dot, roundOf, spread, withSmoothOn } from "../kernel";
import type { FaceRule } from "../references";
import { ALONG, SAME_PLACE } from "../tolerance";

/**
 * The faces of a body, by place, that a rule brings along with one of them, that one first.
 *
 * A pocket is what is reached from a face without going over a ridge: its floor, its walls, roundings between them, but not
 * those of its rim. A boss is what is reached without going through a valley: its top, its walls and roundings of its rim, but not those of its foot.
 * @returns null where the rule says nothing of such a face: only round ones have a radius, and only flat ones look one way.
 */
export function facesWith(body: Body, place: number, rule: FaceRule): number[] | null {
  const { shape } = body;
  switch (rule) {
    case "smooth":
      return withSmoothOn(shape, [place]);
    case "pocket":
    case "boss": {
      const stop = rule === "pocket" ? "outwards" : "inwards";
      return spread(
        [place],
        bowsOf(shape).filter(({ bow }) => bow !== stop),
      );
    }
    case "radius": {
      const own = roundOf(shape, place);
      return (
        own &&
        withOwnFirst(body, place, (other) => {
          const round = roundOf(shape, other);
          return round?.outward === own.outward && Math.abs(round.radius - own.radius) < SAME_PLACE;
        })
      );
    }
    case "facing": {
      const facts = allFaceFacts(shape);
      const way = wayOf(facts[place]!);
      return (
        way &&
        withOwnFirst(body, place, (other) => {
          const its = wayOf(facts[other]!);
          return its !== null && dot(its, way) > 0 && Math.hypot(...cross(its, way)) < ALONG;
        })
      );
    }
  }
}

const withOwnFirst = ({ faces }: Body, place: number, test: (other: number) => boolean): number[] => [
  place,
  ...faces.flatMap((_, other) => (other !== place && test(other) ? [other] : [])),
];

const wayOf = ({ kind, direction }: ReturnType<typeof allFaceFacts>[number]) =>
  kind === "plane" ? (direction ?? null) : null;

import { fail } from "../../errors";
import type { Body, SketchItem } from "../../items";
import { boxOf, corners, dot, inSpace, type PlaneFrame, type Shape, sub } from "../../kernel";
import { toMm } from "../../params";
import { along, type Profile } from "../../sketch";
import { ALONG, SAME_PLACE } from "../../tolerance";
import type { StepContext } from "../evaluation";
import type { Limit } from "./limit";
import type { ExtrudeValues } from "./values";

/** From where to where it reaches, over the sketch's plane, mm. What ends at something is drawn past it and cut off there. */
export function heights(
  values: ExtrudeValues,
  { frame }: SketchItem,
  profile: Profile,
  targets: readonly Body[],
  limit: Limit | null,
  context: StepContext,
): [number, number] {
  const { step } = context;
  const from = toMm(values.from);
  const way = values.flip ? -1 : 1;
  const turned = ([low, high]: [number, number]): [number, number] => (values.flip ? [-high, -low] : [low, high]);
  switch (values.extent) {
    case "distance":
      return turned([from, from + toMm(values.distance)]);
    case "symmetric":
      return [from - toMm(values.distance) / 2, from + toMm(values.distance) / 2];
    case "two":
      return turned([from - toMm(values.second), from + toMm(values.distance)]);
    case "both": {
      const over = throughAll(targets, frame, step);
      return [Math.min(0, ...over) - 1, Math.max(0, ...over) + 1];
    }
    case "through": {
      const far = Math.max(...throughAll(targets, frame, step).map((height) => height * way));
      if (far <= SAME_PLACE)
        fail("through-nothing", "The bodies lie behind the sketch. Turn it the other way round.", { step });
      return turned([0, far + 1]);
    }
    case "to":
    case "next": {
      const over = limit!.plane
        ? overPlane(limit!.plane, frame, profile)
        : limit!.shapes.flatMap((shape) => reach(shape, frame));
      const far = Math.max(...over.map((height) => height * way));
      if (far <= from + SAME_PLACE)
        fail("ends-behind", `${limit!.name} lies behind where it begins. Turn it the other way round.`, { step });
      return turned([from, far + 1]);
    }
  }
}

/** How high the corners of what is gone through stand. @throws SeamError where there is nothing to go through */
function throughAll(targets: readonly Body[], frame: PlaneFrame, step: string): number[] {
  if (targets.length === 0)
    fail("through-nothing", "Through all needs bodies to go through: make it a cut, or give a distance.", { step });
  return targets.flatMap(({ shape }) => reach(shape, frame));
}

/** How high the corners of a shape's box stand over a plane. */
function reach(shape: Shape, { origin, normal }: PlaneFrame): number[] {
  const box = boxOf(shape);
  return box ? corners(box).map((corner) => dot(sub(corner, origin), normal)) : [];
}

/** How high a plane stands over the points of a profile; endless where it is square to the profile's plane. */
function overPlane(plane: NonNullable<Limit["plane"]>, frame: PlaneFrame, { graph }: Profile): number[] {
  const slope = dot(plane.normal, frame.normal);
  if (Math.abs(slope) < ALONG) return [];
  return graph.stretches.flatMap(({ curve, from, to }) =>
    Array.from({ length: 9 }, (_, i) => {
      const at = inSpace(frame, along(curve, from + ((to - from) * i) / 8));
      return dot(sub(plane.origin, at), plane.normal) / slope;
    }),
  );
}

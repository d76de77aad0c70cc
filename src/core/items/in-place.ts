import { axisAndAngle, isIdentity, isMirrored, type Transform } from "../place/transform";
import type { Item } from ".";
import { handlingOf } from "./handlings";

/** An item as it lies by a transform, with an exact form of its own; the very same form where nothing is moved. */
export function inPlace(item: Item, transform: Transform): Item {
  const handling = handlingOf(item);
  if (isIdentity(transform)) return handling.again(item);
  const mirrored = isMirrored(transform);
  const first = mirrored ? handling.mirrored(item, [1, 0, 0]) : item;
  const [a, b, c] = transform.rows;
  const turn: Transform = mirrored
    ? {
        rows: [
          [-a[0], a[1], a[2]],
          [-b[0], b[1], b[2]],
          [-c[0], c[1], c[2]],
        ],
        by: transform.by,
      }
    : transform;
  const placed = handling.placed(first, { about: [0, 0, 0], ...axisAndAngle(turn), by: transform.by });
  if (mirrored) handling.free(first);
  return placed;
}

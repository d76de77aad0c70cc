import type { Body } from "../items";
import { inPlace } from "../items/in-place";
import { isIdentity, numbersOf, type Transform } from "../place";
import type { ResultCache } from "./cache";
import { derived } from "./derived";
import type { PartResult } from "./types";

/** A body of a part as it lies in another: made once, and kept with the results of steps, so that what was measured of it is known still. */
export function placedBody(cache: ResultCache, { results }: PartResult, body: Body, lies: Transform): Body {
  if (isIdentity(lies)) return body;
  return derived(
    cache,
    results,
    body,
    ["lies", numbersOf(lies)],
    () => {},
    () => inPlace(body, lies) as Body,
  );
}

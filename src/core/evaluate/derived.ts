import { type Deviation, tellDeviation, withDeviation } from "../deviation";
import type { Trouble } from "../errors";
import { hashValue } from "../hash";
import type { Body } from "../items";
import { identityOf } from "../kernel";
import type { ResultCache } from "./cache";
import { tokenOf } from "./held";
import type { StepResult } from "./result";

/** How far off what was made is, where something told it. */
const offs = new WeakMap<StepResult, Deviation>();

/**
 * What is made of one body alone on the way to something else, as a tool grown by its gap: kept with the results of steps as long as there is room for it, so
 * that who changes what it is used on does not wait for it again. What was warned of then is warned of each time.
 * @param results those in use, which are not let go of. @param words all else that it depends on. @param make its shape belongs to the cache
 */
export function derived(
  cache: ResultCache,
  results: Map<string, StepResult>,
  of: Body,
  words: unknown,
  warn: (trouble: Trouble) => void,
  make: (warn: (trouble: Trouble) => void) => Body,
): Body {
  // What was brought in is of the very same shape, under names of its own.
  const key = `of ${tokenOf(identityOf(of.shape))} ${hashValue([of.id, of.faces, words])}`;
  let result = cache.get(key);
  if (!result) {
    const warnings: Trouble[] = [];
    const { result: body, off } = withDeviation(() => make((trouble) => warnings.push(trouble)));
    result = { key, made: [body], used: [], warnings, extras: new Map() };
    if (off) offs.set(result, off);
    cache.put(result);
  }
  results.set(key, result);
  const off = offs.get(result);
  if (off) tellDeviation(off);
  for (const trouble of result.warnings) warn(trouble);
  return result.made[0] as Body;
}

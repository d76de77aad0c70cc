import { SeamError } from "../errors";
import type { Step } from "../job";
import type { Bench, Live } from "./bench";

/** What references mean on the bench of another part: each once, in their order. @throws SeamError which says in which part */
export function broughtOf(sheet: Bench, name: string, refs: readonly string[], step: Step): Live[] {
  try {
    const live = refs.flatMap((ref) => sheet.itemsOf(ref, step, true));
    return [...new Map(live.map((one) => [one.item.id, one])).values()];
  } catch (cause) {
    if (!(cause instanceof SeamError)) throw cause;
    throw new SeamError({ ...cause.trouble, message: `In “${name}”: ${cause.trouble.message}` });
  }
}

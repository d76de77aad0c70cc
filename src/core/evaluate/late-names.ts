import type { Repair, Trouble } from "../errors";

/** Stands before and after the id of an item in words that are kept: no name and no id has it in it. */
const SIGN = "\u0001";
const NAMED = new RegExp(`${SIGN}([^${SIGN}]*)${SIGN}`, "g");

/**
 * An item in words that may be kept with a result: what it is called is put in when they are told. A person may call it otherwise by
 * then, and nothing is built anew for that.
 */
export const named = (id: string): string => `${SIGN}${id}${SIGN}`;

/** A trouble with items called as they are called now. */
export function worded(trouble: Trouble, nameOf: (id: string) => string): Trouble {
  const words = (text: string) => text.replace(NAMED, (_all, id: string) => nameOf(id));
  const repair = (one: Repair): Repair => ({ ...one, label: words(one.label) });
  return {
    ...trouble,
    message: words(trouble.message),
    ...(trouble.repair ? { repair: repair(trouble.repair) } : {}),
    ...(trouble.others ? { others: trouble.others.map(repair) } : {}),
  };
}

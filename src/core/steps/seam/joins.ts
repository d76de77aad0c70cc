import { fail } from "../../errors";
import type { Body } from "../../items";
import type { StepContext } from "../evaluation";

/** What groups of pieces go to, as a step says it. */
interface Values {
  joins: readonly { group: string; to: string }[];
}

/**
 * The bodies that groups of pieces go to, by the groups' names.
 * @param divided what the step divides itself: that is nothing to go to. @throws SeamError
 */
export function joinsOf({ joins }: Values, divided: readonly Body[], context: StepContext): Map<string, Body> {
  const { step, nameOf } = context;
  const found = new Map<string, Body>();
  for (const [i, { group, to }] of joins.entries()) {
    const leaveOut = {
      repair: { label: "Leave that out", step, set: { joins: joins.filter((_, other) => other !== i) } },
    };
    const bodies = context.bodies([to]);
    const [body] = bodies;
    if (!body || bodies.length > 1)
      fail("joins-several", `“${group}” can go to one body, and ${bodies.length} are meant. Pick one of them.`, {
        step,
        bodies: bodies.map(({ id }) => id),
        ...leaveOut,
      });
    if (divided.some(({ id }) => id === body.id))
      fail(
        "joins-stock",
        `“${group}” cannot go to ${nameOf(body.id)}, which this step divides itself. Give its piece the same group instead.`,
        { step, bodies: [body.id], ...leaveOut },
      );
    if (body.kind !== "solid")
      fail("needs-solids", `“${group}” cannot be joined to ${nameOf(body.id)}, which is no solid. Pick a solid.`, {
        step,
        bodies: [body.id],
        ...leaveOut,
      });
    const before = found.get(group);
    if (before && before.id !== body.id)
      fail("joins-twice", `“${group}” is to go to ${nameOf(before.id)} and to ${nameOf(body.id)}. Leave one out.`, {
        step,
        bodies: [before.id, body.id],
        ...leaveOut,
      });
    const other = [...found].find(([name, one]) => name !== group && one.id === body.id);
    if (other)
      fail("joins-twice", `“${other[0]}” and “${group}” both go to ${nameOf(body.id)}. Give their pieces one group.`, {
        step,
        bodies: [body.id],
        ...leaveOut,
      });
    found.set(group, body);
  }
  return found;
}

/** Tells of groups that are to go to a body and have no piece. */
export function tellIdleJoins(
  to: ReadonlyMap<string, Body>,
  made: ReadonlyMap<string, number>,
  context: StepContext,
): void {
  for (const [group, body] of to)
    if (!made.has(group))
      context.warn({
        code: "join-idle",
        message: `No piece is in “${group}”, so nothing is joined to ${context.nameOf(body.id)}.`,
        step: context.step,
        bodies: [body.id],
      });
}

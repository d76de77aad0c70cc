"use client";
import type { Repair, Trouble as TroubleFacts } from "@/core/errors";
import { changesOf, repaired } from "@/core/job";
import { Button } from "../controls/controls";
import { useWorkspace } from "../state/context";
import { useActions } from "./actions";

/** What is to be looked at in a step: the same sentence of several things once, with how often. */
export function StepWarnings({ warnings }: { warnings: readonly TroubleFacts[] }) {
  const once = [...new Map(warnings.map((warning) => [warning.message, warning])).values()];
  return once.map((warning) => {
    const times = warnings.filter(({ message }) => message === warning.message).length;
    // Several are kept at once, from the band over the sheet.
    const one =
      times === 1 ? warning : { ...warning, repair: undefined, message: `${times} times: ${warning.message}` };
    return <StepTrouble key={warning.message} trouble={one as TroubleFacts} bad={false} />;
  });
}

/** What was measured of what a step made: nothing to be mended. */
export function StepTold({ told }: { told: readonly TroubleFacts[] }) {
  return told.map(({ message }) => (
    <p key={message} className="mt-0.5 rounded bg-well px-1.5 py-0.5 text-[0.8125rem] text-soft">
      {message}
    </p>
  ));
}

/** What is wrong with a step, or to be looked at, in a sentence, with what would mend it. */
export function StepTrouble({ trouble, bad }: { trouble: TroubleFacts; bad: boolean }) {
  const { repair: mend } = useActions();
  const editing = useWorkspace((state) => state.editing);
  const setValues = useWorkspace((state) => state.setValues);
  const { message, repair, others } = trouble;
  /** What concerns the open step goes into its form; what concerns others is done to them. */
  const apply = (one: Repair) => {
    const own = editing && changesOf(one).find(({ step }) => step === editing.step.id);
    if (own) setValues(repaired(editing.step, own.set));
    const [first, ...more] = changesOf(one).filter((change) => change !== own);
    const { label, insert } = one;
    if (insert) mend({ label, step: one.step, set: {}, with: first ? [first, ...more] : [], insert });
    else if (first) mend({ label, ...first, with: more });
  };
  return (
    <>
      <p
        className={`mt-0.5 rounded px-1.5 py-0.5 text-[0.8125rem] ${bad ? "bg-bad-wash text-bad" : "bg-warn-wash text-warn"}`}
      >
        {message}
      </p>
      <div className="flex flex-wrap gap-1">
        {[...(repair ? [repair] : []), ...(others ?? [])].map((one) => (
          <Button key={one.label} small className="mt-1" onClick={() => apply(one)}>
            {one.label}
          </Button>
        ))}
      </div>
    </>
  );
}

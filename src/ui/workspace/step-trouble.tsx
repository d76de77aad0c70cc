"use client";
import type { Trouble as TroubleFacts } from "@/core/errors";
import { repaired } from "@/core/job";
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

/** What is wrong with a step, or to be looked at, in a sentence, with what would mend it. */
export function StepTrouble({ trouble, bad }: { trouble: TroubleFacts; bad: boolean }) {
  const { repair: mend } = useActions();
  const editing = useWorkspace((state) => state.editing);
  const setDraft = useWorkspace((state) => state.setDraft);
  const { message, repair } = trouble;
  return (
    <>
      <p
        className={`mt-0.5 rounded px-1.5 py-0.5 text-[13px] ${bad ? "bg-bad-wash text-bad" : "bg-warn-wash text-warn"}`}
      >
        {message}
      </p>
      {repair ? (
        <Button
          small
          className="mt-1"
          onClick={() =>
            editing && repair.step === editing.step.id
              ? setDraft(repaired(editing.step, repair.set))
              : mend(repair.step, repair.set, repair.label)
          }
        >
          {repair.label}
        </Button>
      ) : null}
      {trouble.others?.map((other) => (
        <Button
          key={other.label}
          small
          className="mt-1 ml-1"
          onClick={() =>
            editing && other.step === editing.step.id
              ? setDraft(repaired(editing.step, other.set))
              : mend(other.step, other.set, other.label)
          }
        >
          {other.label}
        </Button>
      ))}
    </>
  );
}

"use client";
import { useEffect, useRef } from "react";
import { stepType } from "@/core/steps";
import { Button } from "../controls/controls";
import { StepForm } from "../forms/step-form";
import { ToolMark, toolOf } from "../marks/tool-marks";
import { useJob, useScope, useWorkspace } from "../state/context";
import { problemsOf } from "../state/open-values";
import { stepTitle } from "../state/step-title";
import { useActions } from "./actions";
import { StepTold, StepTrouble, StepWarnings } from "./step-trouble";

/** The step that is open, with its form in place and what the preview says of it. */
export function OpenStep({ number }: { number: number }) {
  const editing = useWorkspace((state) => state.editing)!;
  const evaluation = useWorkspace((state) => state.evaluation);
  const computing = useWorkspace((state) => state.engine.kind === "computing");
  const save = useJob((state) => state.save.kind);
  const { keep, leave } = useActions();
  const set = useWorkspace((state) => state.set);
  const top = useRef<HTMLDivElement>(null);
  const { type } = editing.step;
  useEffect(() => {
    top.current?.scrollIntoView({ block: "nearest" });
    // Whoever opened it by a key goes on in its first field; a drawing takes keys of its own.
    if (type !== "sketch" && document.activeElement === document.body)
      top.current
        ?.querySelector<HTMLElement>("form input, form [role=radio], form button")
        ?.focus({ preventScroll: true });
  }, [type]);
  const kind = stepType(type);
  const report = evaluation?.steps.find((step) => step.id === editing.step.id);
  const scope = useScope();
  const blocked = Object.keys(problemsOf(editing.step, scope)).length > 0;
  return (
    <div ref={top} className="border-y-2 border-ink bg-paper" data-open-step={editing.step.id}>
      <div className="flex items-center gap-2 px-3 pt-2">
        <span className="num text-soft">{number}</span>
        <ToolMark id={toolOf(editing.step)} size={20} />
        <h3 className="min-w-0 grow truncate text-[1.0625rem] font-semibold">{stepTitle(editing.step)}</h3>
        <button
          type="button"
          aria-haspopup="dialog"
          onClick={() => set({ dialog: { help: toolOf(editing.step) } })}
          className="shrink-0 rounded px-1.5 text-[0.8125rem] text-soft underline decoration-dotted underline-offset-2 hover:text-ink"
        >
          How it works
        </button>
      </div>
      <p className="px-3 pb-2 text-[0.8125rem] text-soft">{kind?.words.line}</p>
      <form
        className="px-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <StepForm />
        <div aria-live="polite" className="mt-2">
          {report?.error && !blocked ? <StepTrouble trouble={report.error} bad={report.state === "failed"} /> : null}
          <StepWarnings warnings={report?.warnings ?? []} />
          <StepTold told={report?.told ?? []} />
        </div>
        <div className="sticky bottom-0 -mx-3 mt-3 flex items-center gap-2 border-t border-line bg-paper px-3 py-2">
          <Button type="submit" tone="main" disabled={blocked || save === "stale"}>
            {editing.isNew ? "Add to the sheet" : "Update the step"}
          </Button>
          <Button onClick={leave}>Discard</Button>
          <span className="text-[0.8125rem] text-soft">
            {blocked ? "Mend the marked fields" : computing ? "Building…" : ""}
          </span>
        </div>
      </form>
    </div>
  );
}

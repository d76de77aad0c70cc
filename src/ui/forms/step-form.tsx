"use client";
import { shownFields, stepType } from "@/core/steps";
import { useScope, useWorkspace } from "../state/context";
import { problemsOf } from "../state/open-values";
import { FormField } from "./form-field";

/** The form of the open step, drawn from the fields that its type declares. */
export function StepForm() {
  const editing = useWorkspace((state) => state.editing);
  const setValues = useWorkspace((state) => state.setValues);
  const scope = useScope();
  if (!editing) return null;
  const { step } = editing;
  const type = stepType(step.type);
  if (!type) return null;
  const problems = problemsOf(step, scope);
  return (
    <div className="flex flex-col gap-3">
      {shownFields(step).map((field) => (
        <FormField key={field.key} field={field} values={step} problems={problems} onChange={setValues} />
      ))}
    </div>
  );
}

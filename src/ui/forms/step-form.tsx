"use client";
import { useShallow } from "zustand/react/shallow";
import { has } from "@/core/items/kinds";
import { type Field, shownFields, stepType } from "@/core/steps";
import { useFound, useScope, useWorkspace } from "../state/context";
import { problemsOf } from "../state/open-values";
import { pickable } from "../state/workspace-store";
import { FormField } from "./form-field";

/** The form of the open step, drawn from the fields that its type declares. */
export function StepForm() {
  const editing = useWorkspace((state) => state.editing);
  const setValues = useWorkspace((state) => state.setValues);
  const scope = useScope();
  const found = useFound();
  const items = useWorkspace(useShallow(pickable));
  if (!editing) return null;
  const { step } = editing;
  const type = stepType(step.type);
  if (!type) return null;
  const problems = problemsOf(step, scope);
  /** Whether it can do something, or has been set to. */
  const isOfUse = ({ key, onlyWith }: Field) => {
    if (!onlyWith || step[key] === true) return true;
    const list = (name: string) => (step[name] as unknown[] | undefined) ?? [];
    if (onlyWith.orAnyIn && list(onlyWith.orAnyIn).length > 0) return true;
    const ids = new Set(found.items(onlyWith.in.flatMap(list) as string[]));
    return items.some((item) => ids.has(item.id) && has(item, onlyWith.trait));
  };
  return (
    <div className="flex flex-col gap-3">
      {shownFields(step)
        .filter(isOfUse)
        .map((field) => (
          <FormField key={field.key} field={field} values={step} problems={problems} onChange={setValues} />
        ))}
    </div>
  );
}

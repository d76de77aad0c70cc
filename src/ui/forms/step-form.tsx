"use client";
import { useState } from "react";
import { useShallow } from "zustand/react/shallow";
import { has } from "@/core/items/kinds";
import { type Field, shownFields, stepType } from "@/core/steps";
import { useFound, useScope, useWorkspace } from "../state/context";
import { problemsOf } from "../state/open-values";
import { pickable, type WorkspaceStore } from "../state/workspace-store";
import { FormField } from "./form-field";
import { Player } from "./player";

/** The form of the open step, drawn from the fields that its type declares. */
export function StepForm() {
  const editing = useWorkspace((state) => state.editing);
  const setValues = useWorkspace((state) => state.setValues);
  const scope = useScope();
  const found = useFound();
  const items = useWorkspace(useShallow(pickable));
  const told = useWorkspace(useShallow(toldFields));
  // What was asked for once stays: a person may be typing in it.
  const [seen] = useState(() => new Set<string>());
  if (!editing) return null;
  const { step } = editing;
  const type = stepType(step.type);
  if (!type) return null;
  const problems = problemsOf(step, scope);
  /** Whether it can do something, or has been set to. */
  const isOfUse = ({ key, onlyWith, quiet }: Field) => {
    if (quiet && isUnset(step[key]) && !told.includes(key) && !seen.has(key)) return false;
    seen.add(key);
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
      {step.type === "motion" ? <Player /> : null}
    </div>
  );
}

/** The fields that the open step has something to say about. */
function toldFields({ editing, evaluation }: WorkspaceStore): string[] {
  const report = evaluation?.steps.find(({ id }) => id === editing?.step.id);
  return (report?.warnings ?? []).flatMap(({ field }) => field ?? []);
}

const isUnset = (value: unknown) => value === undefined || Number(value) === 0;

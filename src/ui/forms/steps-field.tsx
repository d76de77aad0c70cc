"use client";
import { stepType } from "../../core/steps";
import { Check } from "../controls/controls";
import { usePart, useWorkspace } from "../state/context";
import { toggleItem } from "../state/refs";
import { stepTitle } from "../state/step-title";

/** Earlier steps that put something into a body or divided one: what can be done again elsewhere. */
export function StepsField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string[];
  onChange(value: string[]): void;
}) {
  const part = usePart();
  const editing = useWorkspace((state) => state.editing);
  const here = part.steps.findIndex(({ id }) => id === editing?.step.id);
  const choices = part.steps
    .map((step, at) => ({ step, number: at + 1 }))
    .slice(0, here < 0 ? undefined : here)
    .flatMap(({ step, number }) => {
      const does = stepType(step.type)?.repeats?.(step as never);
      return does ? [{ step, number, does }] : [];
    });
  return (
    <fieldset aria-label={label} className="min-w-0">
      <p className="mb-1 text-[0.8125rem] text-soft">
        {label} <span className="num">({value.length})</span>
      </p>
      {choices.length === 0 ? (
        <p className="rounded border border-dashed border-line p-2 text-[0.8125rem] text-soft">
          No step above joins something to a body, cuts into one or divides one yet.
        </p>
      ) : (
        <ul className="max-h-44 divide-y divide-line relative overflow-auto rounded border border-line bg-sheet">
          {choices.map(({ step, number, does }) => (
            <li key={step.id} className="px-2 py-1.5">
              <Check checked={value.includes(step.id)} onChange={() => onChange(toggleItem(value, step.id, []))}>
                <span className="num text-soft">{number}</span> {stepTitle(step)}
                <span className="text-soft">, {does}</span>
              </Check>
            </li>
          ))}
        </ul>
      )}
    </fieldset>
  );
}

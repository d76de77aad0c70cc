"use client";
import { CHECKS, checkType } from "@/core/check/registry";
import { Button } from "../controls/controls";
import { FormField } from "../forms/form-field";
import { opened } from "../state/checking";
import { useWorkspace } from "../state/context";
import { CheckOutcome } from "./check-result";
import { useCheck } from "./use-check";

const NO_PROBLEMS = {};

/** The checks that there are, to be opened. */
export function CheckList() {
  const set = useWorkspace((state) => state.set);
  return (
    <ul aria-label="Checks" className="divide-y divide-line border-t border-line">
      {CHECKS.map((check) => (
        <li key={check.id}>
          <button
            type="button"
            className="block w-full px-3 py-2 text-left hover:bg-well"
            onClick={() => set({ checking: opened(check), selected: null, measuring: null })}
          >
            <span className="font-medium">{check.words.label}</span>
            <span className="block text-[0.8125rem] text-soft">{check.words.line}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The open check: what it is asked for, and what came of it. */
export function OpenCheck() {
  const checking = useWorkspace((state) => state.checking);
  const set = useWorkspace((state) => state.set);
  useCheck();
  const check = checking ? checkType(checking.id) : undefined;
  if (!checking || !check) return null;
  const { values, result, trouble } = checking;
  return (
    <section
      aria-label={check.words.label}
      data-covers="left"
      className="absolute bottom-9 left-2 z-10 flex max-h-[min(60%,30rem)] w-[23rem] flex-col rounded border border-line bg-sheet"
    >
      <div className="flex items-center justify-between border-b border-line px-3 py-1">
        <h2 className="font-semibold">{check.words.label}</h2>
        <Button small tone="quiet" onClick={() => set({ checking: null, hover: null })}>
          Close
        </Button>
      </div>
      <div className="relative min-h-0 overflow-auto px-3 py-2">
        {check.fields.length > 0 ? (
          <div className="mb-2 grid grid-cols-2 gap-x-4 gap-y-2 border-b border-line pb-2">
            {check.fields.map((field) => (
              <FormField
                key={field.key}
                field={field}
                values={values}
                problems={NO_PROBLEMS}
                onChange={(next) => set({ checking: { ...checking, values: { ...values, ...next } } })}
              />
            ))}
          </div>
        ) : null}
        {trouble ? (
          <p role="alert" className="text-bad">
            {trouble}
          </p>
        ) : result ? (
          <CheckOutcome id={check.id} result={result} />
        ) : (
          <p className="text-soft">Checking…</p>
        )}
      </div>
    </section>
  );
}

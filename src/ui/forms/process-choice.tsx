"use client";
import { PROCESSES } from "@/core/fit/processes";
import { addParameter } from "@/core/job";
import type { Parameter, Quantity } from "@/core/params";
import { useJob } from "../state/context";

/** What a gap comes to without the parameter that it was taken from. */
const numberOf = (parameter: Parameter | undefined): Quantity => {
  const { formula, unit } = parameter ?? { formula: 0, unit: "mm" };
  return typeof formula === "number" && unit !== "mm" ? `${formula} ${unit}` : formula;
};

/**
 * Takes the gap that a way of making is usually given: a parameter of the job, which is added when it is first used, so that the
 * workshop's own number is set once and holds wherever it is used.
 */
export function ProcessChoice({
  label,
  value,
  onChange,
}: {
  label: string;
  value: unknown;
  onChange(value: Quantity): void;
}) {
  const known = useJob((state) => state.job.parameters);
  const edit = useJob((state) => state.edit);
  const take = (id: string) => {
    const process = PROCESSES.find((one) => one.id === id);
    if (!process) {
      onChange(numberOf(known.find(({ name }) => name === value)));
      return;
    }
    const { parameter: name, unit, gap } = process;
    if (!known.some((one) => one.name === name))
      edit(`Add the gap of ${process.label.toLowerCase()} parts`, (draft) =>
        addParameter(draft, "job", {
          name,
          unit,
          formula: gap,
          note: `Per side, ${process.label.toLowerCase()}: common practice. Set your own`,
        }),
      );
    onChange(name);
  };
  return (
    <select
      aria-label={`${label} by way of making`}
      value={PROCESSES.find(({ parameter }) => parameter === value)?.id ?? ""}
      onChange={(event) => take(event.target.value)}
      className="mt-1 h-7 w-full rounded border border-line bg-sheet px-1 text-[0.8125rem]"
    >
      <option value="">A number of its own</option>
      {PROCESSES.map(({ id, label: word, parameter, unit, gap }) => {
        const own = known.find(({ name }) => name === parameter);
        return (
          <option key={id} value={id}>
            {word}: {own ? String(own.formula) : gap} {own?.unit ?? unit}
            {own ? "" : " (common practice)"}
          </option>
        );
      })}
    </select>
  );
}

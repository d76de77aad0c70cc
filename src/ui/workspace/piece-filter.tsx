"use client";
import { ListFilter, X } from "lucide-react";
import { type ReactNode, useState } from "react";
import type { PieceFilter, PieceRule } from "@/core/seam";
import type { ItemView, PieceView } from "@/engine/contract";
import { Button } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useFound, useJob, useWorkspace } from "../state/context";
import { conditionsOf, EVERY, filterWords, isEvery, kept, type PieceOrder, readRule } from "../state/piece-filter";

const FATES = [
  ["keep", "Keep"],
  ["scrap", "Scrap"],
  ["group", "Join"],
] as const;

const PAST = { keep: "Kept", scrap: "Scrapped", group: "Joined" };

/** mm³ of a cubic inch, mm² of a square one. */
const INCH = { volume: 25.4 ** 3, area: 25.4 ** 2 };

type Items = ReadonlyMap<string, ItemView>;

/** Which pieces are shown, in which order, and one fate for all of them, kept as that rule. */
export function FilterBar({
  pieces,
  count,
  items,
  children,
}: {
  pieces: PieceView[];
  count: number;
  items: Items;
  /** What else can be done with those that are shown. */
  children?: ReactNode;
}) {
  const filter = useWorkspace((state) => state.pieceFilter);
  const order = useWorkspace((state) => state.pieceOrder);
  const step = useWorkspace((state) => state.editing?.step);
  const set = useWorkspace((state) => state.set);
  const setValues = useWorkspace((state) => state.setValues);
  const unit = useJob((state) => state.job.units);
  const found = useFound();
  const conditions = conditionsOf(pieces, items);
  const sheets = pieces.every(({ form }) => form === "sheet");
  const change = (more: Partial<PieceFilter>) => set({ pieceFilter: { ...filter, ...more } });
  const rules = (step?.rules ?? []) as PieceRule[];
  const decide = (fate: PieceRule["fate"]) => {
    const refs = [...((step?.stock ?? []) as string[]), ...((step?.cutters ?? []) as string[])];
    const rule = { where: kept(filter, refs, found), fate, ...(fate === "group" ? { group: "Group 1" } : {}) };
    setValues({ rules: [...rules, rule] });
    set({ pieceFilter: EVERY });
  };
  const factor = unit === "inch" ? (sheets ? INCH.area : INCH.volume) : 1;
  const every = isEvery(filter);
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 px-3 pt-1 text-[0.8125rem]">
      <ListFilter size={14} aria-hidden className="text-soft" />
      <select
        aria-label="Show pieces that lie"
        value=""
        onChange={({ target }) => {
          const chosen = conditions.find(({ key }) => key === target.value);
          if (chosen) change({ ...chosen.of, sides: { ...filter.sides, ...chosen.of.sides } });
        }}
        className="h-6 max-w-44 rounded border border-line bg-sheet px-1"
      >
        <option value="">Only those …</option>
        {conditions.map(({ key, label }) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </select>
      <SizeInput
        label={sheets ? "Area at least" : "Volume at least"}
        lead="from"
        unit={unit === "inch" ? (sheets ? "in²" : "in³") : sheets ? "mm²" : "mm³"}
        value={filter.atLeast}
        factor={factor}
        onChange={(atLeast) => change({ atLeast })}
      />
      <SizeInput
        label={sheets ? "Area under" : "Volume under"}
        lead="under"
        unit={unit === "inch" ? (sheets ? "in²" : "in³") : sheets ? "mm²" : "mm³"}
        value={filter.under}
        factor={factor}
        onChange={(under) => change({ under })}
      />
      <select
        aria-label="Order of the pieces"
        value={order}
        onChange={({ target }) => set({ pieceOrder: target.value as PieceOrder })}
        className="h-6 rounded border border-line bg-sheet px-1"
      >
        <option value="number">By number</option>
        <option value="largest">Largest first</option>
        <option value="smallest">Smallest first</option>
      </select>
      {children}
      {every ? null : (
        <span className="flex items-center gap-1.5">
          <span className="max-w-72 truncate" title={filterWords(filter, items, unit, sheets)}>
            <span className="num">{count}</span> of <span className="num">{pieces.length}</span>:{" "}
            {filterWords(filter, items, unit, sheets)}
          </span>
          {FATES.map(([fate, word]) => (
            <Button key={fate} small disabled={count === 0} onClick={() => decide(fate)}>
              <Mark name={fate} width={13} height={13} />
              {word} these
            </Button>
          ))}
          <button
            type="button"
            aria-label="Show all pieces again"
            onClick={() => set({ pieceFilter: EVERY })}
            className="rounded p-0.5 text-soft hover:text-ink"
          >
            <X size={14} aria-hidden />
          </button>
        </span>
      )}
      {rules.length > 0 ? (
        <ul aria-label="Rules" className="flex flex-wrap gap-1">
          {rules.map((rule, i) => {
            const words = `${PAST[rule.fate]}: ${filterWords(readRule(rule, found).where, items, unit, sheets)}`;
            return (
              <li key={i} className="flex h-6 items-center gap-1 rounded border border-line bg-sheet pl-1.5">
                <Mark name={rule.fate} width={13} height={13} />
                <span className="max-w-60 truncate" title={words}>
                  {words}
                </span>
                <button
                  type="button"
                  aria-label={`Leave out the rule ${i + 1}`}
                  onClick={() => setValues({ rules: rules.filter((_, other) => other !== i) })}
                  className="rounded p-1 text-soft hover:text-ink"
                >
                  <X size={12} aria-hidden />
                </button>
              </li>
            );
          })}
        </ul>
      ) : null}
    </div>
  );
}

/** A size that is typed; nothing where it is empty. What is no number stays in the field and filters nothing. */
function SizeInput({
  label,
  lead,
  unit,
  value,
  factor,
  onChange,
}: {
  label: string;
  lead: string;
  unit: string;
  value: number | undefined;
  factor: number;
  onChange(value: number | undefined): void;
}) {
  const [text, setText] = useState("");
  /** What a text says, mm³ or mm²; nothing where it is empty, not a number where it is none. */
  const read = (typed: string) => (typed.trim() === "" ? undefined : Number(typed.replace(",", ".")) * factor);
  const typed = read(text);
  const bad = typed !== undefined && !(typed >= 0);
  // What was set elsewhere is shown instead of what was typed here.
  const shown =
    bad || typed === value ? text : value === undefined ? "" : String(Number((value / factor).toPrecision(6)));
  return (
    <label className="flex items-center gap-1 text-soft">
      <input
        aria-label={label}
        placeholder={lead}
        aria-invalid={bad}
        inputMode="decimal"
        value={shown}
        onChange={({ target }) => {
          setText(target.value);
          const next = read(target.value);
          onChange(next !== undefined && next >= 0 ? next : undefined);
        }}
        className={`num h-6 w-16 rounded border bg-sheet px-1 text-ink placeholder:text-soft ${bad ? "border-bad" : "border-line"}`}
      />
      {unit}
    </label>
  );
}

"use client";
import { useState } from "react";
import type { Cell, CheckResult, Found } from "@/core/check";
import type { LengthUnit } from "@/core/units";
import { Button } from "../controls/controls";
import { csvFile } from "../controls/csv-file";
import { download } from "../controls/download";
import { formatAngle, formatArea, formatLength } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import { PairLine } from "./pair-line";

/** As many lines of a table are shown. */
const SHOWN = 300;
/** From as many lines on they can be searched. */
const MANY = 4;

/** The lines of a check: sorted by what is clicked, searched by words, written as CSV. Each lights what it is about. */
export function CheckTable({ id, result }: { id: string; result: CheckResult }) {
  const { columns, found } = result;
  const unit = useJob((state) => state.job.units);
  const [words, setWords] = useState("");
  const [badOnly, setBadOnly] = useState(false);
  const [order, setOrder] = useState<{ column: number; up: boolean } | null>(null);
  const lines = found
    .map((line, place) => ({ line, place }))
    .filter(({ line }) => (!badOnly || line.bad) && matches(line, words, unit));
  if (order)
    lines.sort((a, b) => (order.up ? 1 : -1) * compared(a.line.cells[order.column], b.line.cells[order.column]));
  if (found.length === 0) return null;
  return (
    <>
      <div className="mt-2 flex items-center gap-2">
        {found.length >= MANY ? (
          <>
            <input
              aria-label="Lines with these words"
              placeholder="Lines with…"
              value={words}
              onChange={(event) => setWords(event.target.value)}
              className="h-7 min-w-0 grow rounded border border-line bg-sheet px-2 text-[0.8125rem]"
            />
            <Button small aria-pressed={badOnly} tone={badOnly ? "main" : "plain"} onClick={() => setBadOnly(!badOnly)}>
              To be looked at
            </Button>
          </>
        ) : (
          <span className="grow" />
        )}
        <Button
          small
          onClick={() =>
            download(
              csvOf(
                columns,
                lines.map(({ line }) => line),
              ),
              `${id}.csv`,
              "text/csv",
            )
          }
        >
          CSV
        </Button>
      </div>
      <table className="mt-1 w-full border-collapse text-[0.8125rem]">
        <thead>
          <tr className="text-left text-soft">
            {columns.map((name, column) => (
              <th
                key={name}
                className="pr-2 font-normal"
                aria-sort={order?.column === column ? (order.up ? "ascending" : "descending") : "none"}
              >
                <button
                  type="button"
                  className="rounded hover:underline"
                  onClick={() => setOrder(nextOrder(order, column))}
                >
                  {name || "Verdict"}
                  {order?.column === column ? (order.up ? " ↑" : " ↓") : ""}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.slice(0, SHOWN).map(({ line, place }) => (
            <Line key={place} line={line} place={place} unit={unit} columns={columns.length} />
          ))}
        </tbody>
      </table>
      {lines.length === 0 ? <p className="mt-1 text-[0.8125rem] text-soft">No line is like that.</p> : null}
      {lines.length > SHOWN ? (
        <p className="mt-1 text-[0.8125rem] text-soft">
          The first <span className="num">{SHOWN}</span> of <span className="num">{lines.length}</span> are listed.
        </p>
      ) : null}
    </>
  );
}

/** Up, down, and as it came. */
const nextOrder = (order: { column: number; up: boolean } | null, column: number) =>
  order?.column !== column ? { column, up: true } : order.up ? { column, up: false } : null;

const matches = ({ cells }: Found, words: string, unit: LengthUnit): boolean => {
  const text = cells
    .map((cell) => wordsOf(cell, unit))
    .join(" ")
    .toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
};

/** What a cell counts as when lines are put in order: numbers before words. */
function compared(one: Cell | undefined, other: Cell | undefined): number {
  const [a, b] = [one, other].map(sizeOf);
  if (typeof a === "number" && typeof b === "number") return a - b;
  if (typeof a !== typeof b) return typeof a === "number" ? -1 : 1;
  return String(a).localeCompare(String(b));
}

function sizeOf(cell: Cell | undefined): number | string {
  if (cell === undefined) return "";
  if (typeof cell === "string") return /^\d+$/.test(cell) ? Number(cell) : cell;
  if ("length" in cell) return cell.length;
  return "area" in cell ? cell.area : cell.angles[0];
}

/** The lines as a table of numbers in mm, mm² and degrees, for other programs. */
function csvOf(columns: readonly string[], lines: readonly Found[]): Uint8Array {
  const data = lines.map(({ cells }) =>
    cells.map((cell) => {
      if (typeof cell === "string") return cell;
      if ("length" in cell) return `${cell.length} mm`;
      return "area" in cell ? `${cell.area} mm²` : `${cell.angles.join(" … ")} deg`;
    }),
  );
  return csvFile(
    columns.map((name) => name || "Verdict"),
    data,
  );
}

function Line({ line, place, unit, columns }: { line: Found; place: number; unit: LengthUnit; columns: number }) {
  const set = useWorkspace((state) => state.set);
  const checking = useWorkspace((state) => state.checking);
  const isOpen = checking?.line === place;
  const point = () =>
    set({
      hover: {
        id: line.body,
        face: line.faces[0] ?? null,
        ...(line.edges[0] !== undefined ? { edge: line.edges[0] } : {}),
      },
    });
  const [first, ...rest] = line.cells.map((cell) => wordsOf(cell, unit));
  return (
    <>
      <tr
        className={`border-t border-line hover:bg-pick-wash ${isOpen ? "bg-pick-wash" : ""} ${line.bad ? "text-bad" : ""}`}
        onPointerEnter={point}
        onPointerLeave={() => set({ hover: null })}
      >
        <td className={`pr-2 ${line.pair ? "" : "max-w-28 truncate"}`}>
          <button
            type="button"
            className="rounded text-left"
            {...(line.pair ? { "aria-expanded": isOpen } : {})}
            onFocus={point}
            onBlur={() => set({ hover: null })}
            onClick={() => checking && line.pair && set({ checking: { ...checking, line: isOpen ? null : place } })}
          >
            {first}
          </button>
        </td>
        {rest.map((words, i) => (
          <td key={i} className="num pr-2 align-top">
            {words}
          </td>
        ))}
      </tr>
      {isOpen && line.pair ? (
        <tr>
          <td colSpan={columns} className="pb-2">
            <PairLine line={line} pair={line.pair} />
          </td>
        </tr>
      ) : null}
    </>
  );
}

function wordsOf(cell: Cell, unit: LengthUnit): string {
  if (typeof cell === "string") return cell;
  if ("length" in cell) return formatLength(cell.length, unit);
  if ("area" in cell) return formatArea(cell.area, unit);
  const { angles, within } = cell;
  const [low, high] = angles.map((angle) => formatAngle(Math.round(angle * 100) / 100 + 0)) as [string, string];
  return `${low === high ? low : `${low} … ${high}`}${within > 0 ? ` ± ${formatAngle(Math.ceil(within * 10) / 10)}` : ""}`;
}

"use client";
import type { Band, Cell, CheckResult, Found } from "@/core/check";
import type { LengthUnit } from "@/core/units";
import { Mark } from "../marks/marks";
import { formatAngle, formatArea, formatLength } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import { TONES } from "../viewport/tones";
import { useTheme } from "./theme";

/** As many lines of a table are shown. */
const SHOWN = 300;

/** What came of a check: in a sentence, as a scale, and line by line. */
export function CheckOutcome({ result }: { result: CheckResult }) {
  const { summary, good, note, bands, columns, found } = result;
  const unit = useJob((state) => state.job.units);
  return (
    <>
      <p className={`flex gap-2 ${good ? "" : "text-bad"}`} role="status">
        <Mark name={good ? "good" : "warned"} title={good ? "Good" : "To be looked at"} className="mt-0.5 shrink-0" />
        {summary}
      </p>
      {note ? <p className="mt-1 text-[0.8125rem] text-soft">{note}</p> : null}
      {bands.length > 0 ? <Legend bands={bands} /> : null}
      {found.length > 0 ? (
        <table className="mt-2 w-full border-collapse text-[0.8125rem]">
          <thead>
            <tr className="text-left text-soft">
              {columns.map((name) => (
                <th key={name} className="pr-2 font-normal">
                  {name || <span className="sr-only">Verdict</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.slice(0, SHOWN).map((line, i) => (
              <Line key={i} line={line} unit={unit} />
            ))}
          </tbody>
        </table>
      ) : null}
      {found.length > SHOWN ? (
        <p className="mt-1 text-[0.8125rem] text-soft">
          The first <span className="num">{SHOWN}</span> of <span className="num">{found.length}</span> are listed.
        </p>
      ) : null}
    </>
  );
}

function Line({ line, unit }: { line: Found; unit: LengthUnit }) {
  const set = useWorkspace((state) => state.set);
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
    <tr
      className={`border-t border-line hover:bg-pick-wash ${line.bad ? "text-bad" : ""}`}
      onPointerEnter={point}
      onPointerLeave={() => set({ hover: null })}
    >
      <td className="max-w-28 truncate pr-2">
        <button type="button" className="rounded text-left" onFocus={point} onBlur={() => set({ hover: null })}>
          {first}
        </button>
      </td>
      {rest.map((words, i) => (
        <td key={i} className="num pr-2">
          {words}
        </td>
      ))}
    </tr>
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

/** The scale, each part as it is drawn. */
function Legend({ bands }: { bands: readonly Band[] }) {
  const { dark } = useTheme();
  return (
    <ul aria-label="Scale" className="mt-2 grid grid-cols-2 gap-x-2 gap-y-0.5 text-[0.8125rem]">
      {bands.map(({ words, tone }) => (
        <li key={words} className="flex items-center gap-2">
          <Swatch colour={TONES[tone][dark ? "dark" : "light"]} hatch={TONES[tone].hatch} />
          {words}
        </li>
      ))}
    </ul>
  );
}

/** Strokes over a square of 16, by kind of hatching. */
const STROKES = [
  "",
  "M-2 8 8-2M4 18 18 4",
  "M-2 6 6-2M-2 12 12-2M2 18 18 2M8 18 18 8",
  "M-2 8 8-2M-2 18 18-2M8 18 18 8M-2 8 8 18M-2-2 18 18M8-2 18 8",
  "M0 3h16M0 8h16M0 13h16",
];

function Swatch({ colour, hatch }: { colour: string; hatch: number }) {
  return (
    <svg width={16} height={16} viewBox="0 0 16 16" aria-hidden className="shrink-0">
      <rect width={16} height={16} fill={colour} />
      <path d={STROKES[hatch]} stroke="#000" strokeOpacity={0.55} strokeWidth={1.4} />
    </svg>
  );
}

"use client";
import type { Band, CheckResult } from "@/core/check";
import { Mark } from "../marks/marks";
import { TONES } from "../viewport/tones";
import { CheckTable } from "./check-table";
import { useTheme } from "./theme";

/** What came of a check: in a sentence, as a scale, and line by line. */
export function CheckOutcome({ id, result }: { id: string; result: CheckResult }) {
  const { summary, good, note, bands } = result;
  return (
    <>
      <p className={`flex gap-2 ${good ? "" : "text-bad"}`} role="status">
        <Mark name={good ? "good" : "warned"} title={good ? "Good" : "To be looked at"} className="mt-0.5 shrink-0" />
        {summary}
      </p>
      {note ? <p className="mt-1 text-[0.8125rem] text-soft">{note}</p> : null}
      {bands.length > 0 ? <Legend bands={bands} /> : null}
      <CheckTable id={id} result={result} />
    </>
  );
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

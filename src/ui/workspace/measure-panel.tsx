"use client";
import { useEffect, useState } from "react";
import { has } from "@/core/items/kinds";
import type { LengthUnit } from "@/core/units";
import { type BodyView, type CurveView, isBodyView, type Measurement } from "@/engine/contract";
import { Cancelled } from "@/engine/host";
import { Button } from "../controls/controls";
import { describeEdge, describeFace } from "../forms/part-fields";
import { formatAngle, formatArea, formatLength, formatVolume } from "../settings/format";
import { useJob, useStores, useWorkspace } from "../state/context";
import { isMeasured, NOTHING_MEASURED, targetsOf } from "../state/measuring";
import type { Hover } from "../state/workspace-store";
import { FactLines } from "./fact-lines";
import { GapRun } from "./gap-run";

/** What is measured: of one thing, or of two and how they lie to each other. The distances are drawn in the view, too. */
export function MeasurePanel() {
  const measuring = useWorkspace((state) => state.measuring);
  const items = useWorkspace((state) => state.evaluation?.items);
  const set = useWorkspace((state) => state.set);
  const unit = useJob((state) => state.job.units);
  const waiting = useMeasurement();
  if (!measuring) return null;
  const measured = items?.filter(isMeasured) ?? [];
  const { picked, result, trouble } = measuring;
  const targets = targetsOf(measured, picked);
  return (
    <section
      aria-label="Measure"
      data-covers="left"
      className="absolute bottom-9 left-2 z-10 flex max-h-[75%] w-[22rem] flex-col rounded border border-line bg-sheet/95"
    >
      <div className="flex items-center justify-between border-b border-line px-3 py-1">
        <h2 className="font-semibold">Measure</h2>
        <div className="flex gap-1">
          {picked.length > 0 ? (
            <Button small tone="quiet" onClick={() => set({ measuring: NOTHING_MEASURED })}>
              Begin anew
            </Button>
          ) : null}
          <Button small tone="quiet" onClick={() => set({ measuring: null })}>
            Close
          </Button>
        </div>
      </div>
      <div aria-live="polite" className="min-h-0 relative overflow-auto px-3 py-2">
        {picked.length < 2 ? (
          <p className="text-soft">
            {picked.length === 0
              ? "Click a face, an edge, a corner or a curve."
              : "Click another, to measure how the two lie to each other."}
          </p>
        ) : null}
        {picked.map((thing, i) => (
          <Picked
            key={JSON.stringify(thing)}
            words={describe(measured, thing, unit)}
            mark={"AB"[i]!}
            facts={i === 0 ? result?.first : result?.second}
            unit={unit}
          />
        ))}
        {result?.between ? (
          <>
            <Between between={result.between} unit={unit} />
            <GapRun key={JSON.stringify(picked)} targets={targets} />
          </>
        ) : null}
        {trouble ? (
          <p role="alert" className="mt-1 text-bad">
            {trouble}
          </p>
        ) : null}
        {waiting ? (
          <p data-measuring className="mt-1 flex items-center gap-2 text-soft">
            Measuring…
            <Button small onClick={waiting.stop}>
              Stop
            </Button>
          </p>
        ) : null}
        <PickFromList items={measured} unit={unit} />
      </div>
    </section>
  );
}

/** ms after which a measure that is still under way is shown to be, and may be stopped: stopping costs the engine what it keeps. */
const LONG = 700;

/** Asks the engine whenever something else is picked. What takes long can be stopped, and is when nobody waits for it any more. */
function useMeasurement(): { stop(): void } | null {
  const [waiting, setWaiting] = useState<{ stop(): void } | null>(null);
  const { engines, job, workspace } = useStores();
  const picked = useWorkspace((state) => state.measuring?.picked);
  const evaluation = useWorkspace((state) => state.evaluation);
  useEffect(() => {
    if (!picked || picked.length === 0 || !evaluation) return;
    const targets = targetsOf(evaluation.items.filter(isMeasured), picked);
    const [first, second] = targets;
    if (!first || targets.length < picked.length) {
      workspace.getState().set({ measuring: NOTHING_MEASURED });
      return;
    }
    const ends = new AbortController();
    const { job: document } = job.store.getState();
    const part = workspace.getState().part;
    const stopping = new AbortController();
    let late = false;
    const timer = setTimeout(() => {
      late = true;
      setWaiting({ stop: () => stopping.abort() });
    }, LONG);
    const done = () => {
      clearTimeout(timer);
      late = false;
      setWaiting(null);
    };
    const tell = (more: object) => {
      // Something else is measured by now, and waited for.
      if (ends.signal.aborted) return;
      done();
      const { measuring, set } = workspace.getState();
      if (measuring?.picked === picked) set({ measuring: { ...measuring, ...more } });
    };
    engines()
      .ask("measure", { job: document, part, first, ...(second ? { second } : {}) }, { signal: stopping.signal })
      .then(
        (result) => tell({ result, trouble: null }),
        (cause: Error) =>
          tell({
            result: null,
            trouble: cause instanceof Cancelled ? "Stopped: nothing was measured." : cause.message,
          }),
      );
    return () => {
      ends.abort();
      if (late) stopping.abort();
      done();
    };
  }, [picked, evaluation, engines, job, workspace]);
  return waiting;
}

function describe(
  items: readonly (BodyView | CurveView)[],
  { id, face, edge, corner }: Hover,
  unit: LengthUnit,
): string {
  const item = items.find((candidate) => candidate.id === id);
  if (!item) return "gone";
  if (!has(item, "body")) return item.name;
  const body = item;
  if (corner !== undefined) return `${body.name}: corner`;
  const along = edge === undefined ? null : body.edges[edge];
  if (along) return `${body.name}: ${describeEdge(along, unit)}`;
  const on = face === null ? undefined : body.faces[face];
  return on ? `${body.name}: ${describeFace(on, unit)}` : body.name;
}

type Facts = Measurement["first"];
const point = (at: readonly number[], unit: LengthUnit) =>
  at.map((value) => formatLength(value, unit).replace(/ \w+$/, "")).join(", ");

function Picked({
  words,
  mark,
  facts,
  unit,
}: {
  words: string;
  mark: string;
  facts: Facts | undefined;
  unit: LengthUnit;
}) {
  const lines: [string, string][] = facts
    ? [
        ...(facts.volume !== undefined
          ? [["Volume", formatVolume(facts.volume, unit, facts.volumeWithin)] as [string, string]]
          : []),
        ...(facts.area !== undefined ? [["Area", formatArea(facts.area, unit)] as [string, string]] : []),
        ...(facts.length !== undefined ? [["Length", formatLength(facts.length, unit)] as [string, string]] : []),
        ...(facts.radius !== undefined
          ? ([
              ["Radius", formatLength(facts.radius, unit)],
              ["Diameter", formatLength(2 * facts.radius, unit)],
            ] as [string, string][])
          : []),
        ...(facts.at && (facts.kind === "corner" || facts.radius !== undefined)
          ? [[facts.kind === "corner" ? "At" : "Middle", point(facts.at, unit)] as [string, string]]
          : []),
      ]
    : [];
  return (
    <div className="mb-1.5">
      <p className="flex gap-2 font-medium">
        <span className="grid size-5 shrink-0 place-items-center rounded-full bg-ink text-[0.75rem] text-paper">
          {mark}
        </span>
        <span className="min-w-0 truncate">{words}</span>
      </p>
      <FactLines lines={lines} className="gap-y-0.5 pl-7" />
    </div>
  );
}

function Between({ between, unit }: { between: NonNullable<Measurement["between"]>; unit: LengthUnit }) {
  const { nearest, apart, angle, along } = between;
  const lines: [string, string][] = [
    ...(apart ? [[`Between ${apart.what}`, formatLength(apart.mm, unit)] as [string, string]] : []),
    ...(nearest
      ? [["Smallest distance", nearest.mm < 1e-7 ? "they touch" : formatLength(nearest.mm, unit)] as [string, string]]
      : []),
    ...(along && nearest && nearest.mm >= 1e-7 ? [["Along X, Y, Z", point(along, unit)] as [string, string]] : []),
    ...(angle !== null
      ? [
          ["Angle", angle < 1e-7 ? "parallel" : `${formatAngle(angle)} (${formatAngle(180 - angle)})`] as [
            string,
            string,
          ],
        ]
      : []),
  ];
  return (
    <div className="border-t border-line pt-1.5">
      <FactLines lines={lines} className="gap-y-0.5 pl-7" />
    </div>
  );
}

/** All that can be measured, for who does not click in the view. */
function PickFromList({ items, unit }: { items: readonly (BodyView | CurveView)[]; unit: LengthUnit }) {
  const set = useWorkspace((state) => state.set);
  const { workspace } = useStores();
  const pick = (hit: Hover) => {
    const { measuring } = workspace.getState();
    if (!measuring) return;
    const { picked } = measuring;
    set({ measuring: { ...NOTHING_MEASURED, picked: picked.length >= 2 ? [hit] : [...picked, hit] } });
  };
  const line = (key: string, words: string, hit: Hover) => (
    <li key={key}>
      <button
        type="button"
        className="block w-full truncate rounded px-1 text-left hover:bg-pick-wash"
        onPointerEnter={() => set({ hover: hit })}
        onPointerLeave={() => set({ hover: null })}
        onFocus={() => set({ hover: hit })}
        onClick={() => pick(hit)}
      >
        {words}
      </button>
    </li>
  );
  return (
    <details className="mt-1.5 rounded border border-line">
      <summary className="cursor-pointer px-2 py-1">Pick from a list</summary>
      <div className="max-h-48 relative overflow-auto border-t border-line px-2 py-1">
        {items
          .filter((item) => !has(item, "body"))
          .map((item) => (
            <ul key={item.id}>{line("all", item.name, { id: item.id, face: null })}</ul>
          ))}
        {items.filter(isBodyView).map((body) => (
          <fieldset key={body.id} className="mb-1">
            <legend className="text-[0.8125rem] font-medium">{body.name}</legend>
            <ul>
              {line("all", "The whole body", { id: body.id, face: null })}
              {body.faces.map((face, at) => line(face.name, describeFace(face, unit), { id: body.id, face: at }))}
              {body.edges.map((edge, at) =>
                edge ? line(edge.name, describeEdge(edge, unit), { id: body.id, face: null, edge: at }) : null,
              )}
              {body.corners.map((corner, at) =>
                line(corner.name, `Corner ${point(corner.at, unit)}`, { id: body.id, face: null, corner: at }),
              )}
            </ul>
          </fieldset>
        ))}
      </div>
    </details>
  );
}

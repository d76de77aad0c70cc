"use client";
import type { Vec3 } from "@/core/kernel";
import type { LengthUnit } from "@/core/units";
import { counted } from "@/core/words";
import { type BodyView, isBodyView } from "@/engine/contract";
import { Button } from "../controls/controls";
import { describeFace } from "../forms/part-fields";
import { shownAs } from "../items";
import { formatArea, formatDeviation, formatLength, formatMass, formatVolume } from "../settings/format";
import { useJob, usePart, useWorkspace } from "../state/context";
import { massOf } from "../state/looks";
import { CheckList } from "./checks";
import { FactLines } from "./fact-lines";
import { NotesList } from "./notes-list";

/** Measures of what is selected: of a body what it holds, how large it is, whether it is closed, and of what faces it is made. */
export function CheckPanel() {
  const stage = useWorkspace((state) => state.stage);
  const selected = useWorkspace((state) => state.selected);
  const items = useWorkspace((state) => state.evaluation?.items);
  const editing = useWorkspace((state) => state.editing);
  const set = useWorkspace((state) => state.set);
  const unit = useJob((state) => state.job.units);
  const item = items?.find(({ id }) => id === selected);
  const measuring = useWorkspace((state) => state.measuring !== null);
  const checking = useWorkspace((state) => state.checking !== null);
  const whole = useWorkspace((state) => state.whole);
  const comparing = useWorkspace((state) => state.comparing !== null);
  if (editing || measuring || checking || whole || comparing || (stage !== "check" && !item)) return null;
  return (
    <section
      aria-label="Check"
      data-covers="left"
      className="absolute bottom-9 left-2 z-10 flex max-h-[70%] w-72 flex-col rounded border border-line bg-sheet/95"
    >
      <div className="flex items-center justify-between border-b border-line px-3 py-1">
        <h2 className="truncate font-semibold">{item ? item.name : "Check"}</h2>
        <Button small tone="quiet" onClick={() => set({ selected: null, stage: stage === "check" ? null : stage })}>
          Close
        </Button>
      </div>
      {item && isBodyView(item) ? (
        <Facts body={item} unit={unit} />
      ) : item ? (
        <div className="px-3 py-2">
          <FactLines lines={[["Is", shownAs(item).state(item).words], ...(shownAs(item).facts(item, unit) ?? [])]} />
        </div>
      ) : (
        <>
          <p className="p-3 text-soft">Click a body in the view or on the bench to measure it, or check all of them:</p>
          <CheckList />
        </>
      )}
    </section>
  );
}

function Facts({ body, unit }: { body: BodyView; unit: LengthUnit }) {
  const set = useWorkspace((state) => state.set);
  const clicked = useWorkspace((state) => state.selectedFace);
  const face = clicked === null ? undefined : body.faces[clicked];
  const part = usePart();
  const materials = useJob((state) => state.job.materials);
  const mass = massOf({ materials }, part, body);
  const { volume, area, closed, openEdges, pinches, box, meetsWithin } = body.measures;
  const lines: [string, string][] = [
    ["Volume", volume === null ? "none: a sheet" : formatVolume(volume, unit, body.measures.volumeWithin)],
    ...(mass ? ([["Mass", `${formatMass(mass.grams, unit)} of ${mass.material.name}`]] as [string, string][]) : []),
    ["Area", formatArea(area, unit)],
    ...(box
      ? ([["Size", [0, 1, 2].map((k) => formatLength(box.max[k]! - box.min[k]!, unit)).join(" × ")]] as [
          string,
          string,
        ][])
      : []),
    ...(meetsWithin ? ([["Faces meet", `to ${formatDeviation(meetsWithin)}`]] as [string, string][]) : []),
    ["Skin", closed ? "closed" : `open: ${counted(openEdges.length, "edge")}`],
    ...(pinches.length > 0 ? ([["Touches itself", counted(pinches.length, "place")]] as [string, string][]) : []),
  ];
  return (
    <div className="min-h-0 relative overflow-auto px-3 py-2">
      <FactLines lines={lines} />
      {face ? (
        <p className="mt-2 border-t border-line pt-2">
          <span className="text-[0.8125rem] text-soft">Clicked face: </span>
          {describeFace(face, unit)}
          {face.direction ? (
            <span className="num block">
              {face.kind === "plane" ? "normal" : "axis"} {face.direction.map((value) => value.toFixed(4)).join(", ")}
            </span>
          ) : null}
        </p>
      ) : null}
      <NotesList body={body} />
      <Places title="Where it is open" places={openEdges} unit={unit} />
      <Places title="Where it touches itself: no thickness" places={pinches} unit={unit} />
      <details className="mt-2">
        <summary className="cursor-pointer text-[0.8125rem] text-soft">
          Faces (<span className="num">{body.faces.length}</span>)
        </summary>
        <ul className="mt-1">
          {body.faces.map((face, at) => (
            <li
              key={face.name}
              className="truncate rounded px-1 hover:bg-pick-wash"
              onPointerEnter={() => set({ hover: { id: body.id, face: at } })}
              onPointerLeave={() => set({ hover: null })}
            >
              {describeFace(face, unit)}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}

/** Places on a skin, with how far each runs. */
function Places({ title, places, unit }: { title: string; places: { at: Vec3; length: number }[]; unit: LengthUnit }) {
  if (places.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-[0.8125rem] text-soft">{title}</summary>
      <ol className="mt-1 list-decimal pl-5">
        {places.slice(0, 50).map(({ at, length }) => (
          <li key={at.join()} className="num">
            {at.map((value) => formatLength(value, unit).replace(/ \w+$/, "")).join(", ")};{" "}
            {length > 0 ? `${formatLength(length, unit)} long` : "a point"}
          </li>
        ))}
      </ol>
    </details>
  );
}

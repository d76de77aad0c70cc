"use client";
import type { ReactNode } from "react";
import type { CornerRef, EdgeRef, FaceRef } from "@/core/references";
import type { Field } from "@/core/steps";
import type { LengthUnit } from "@/core/units";
import { type BodyView, type CornerView, type EdgeView, type FaceView, isBodyView } from "@/engine/contract";
import { Check } from "../controls/controls";
import { formatArea, formatLength } from "../settings/format";
import { useFound, useJob, useWorkspace } from "../state/context";
import { asNow, cornerRef, edgeRef, faceRef, sameCorner, sameEdge, sameFace, togglePart } from "../state/refs";
import type { Hover } from "../state/workspace-store";
import { directionWord } from "../viewport/direction-words";
import { FaceRuleChoice } from "./face-rule";
import { PickHead, usePickable } from "./item-fields";

export function describeFace(face: FaceView, unit: LengthUnit): string {
  const size = face.radius !== undefined ? `Ø${formatLength(face.radius * 2, unit)}` : formatArea(face.area, unit);
  return `${FACE_WORDS[face.kind] ?? face.kind}${face.kind === "plane" && face.direction ? ` ${facing(face.direction)}` : ""}, ${size}`;
}

const FACE_WORDS: Record<string, string> = {
  plane: "Flat",
  cylinder: "Cylindrical",
  cone: "Conical",
  sphere: "Spherical",
  torus: "Torus",
  spline: "Free-form",
  revolution: "Turned",
  extrusion: "Extruded",
  offset: "Offset",
  other: "Other",
};

function facing(direction: readonly [number, number, number]): string {
  const word = directionWord(direction);
  return word ? `facing ${word}` : "aslant";
}

const EDGE_WORDS: Record<string, string> = {
  line: "Straight",
  circle: "Round",
  ellipse: "Elliptic",
  spline: "Free-form",
  other: "Curved",
};

export function describeEdge(edge: EdgeView, unit: LengthUnit): string {
  const size =
    edge.radius !== undefined ? `Ø${formatLength(edge.radius * 2, unit)}` : `${formatLength(edge.length, unit)} long`;
  return `${EDGE_WORDS[edge.kind]}, ${size}`;
}

function describeCorner({ at }: CornerView, unit: LengthUnit): string {
  return at.map((value) => formatLength(value, unit).replace(/ \w+$/, "")).join(", ");
}

export interface Choice<T> {
  ref: T;
  words: string;
  hover: Hover;
}

/** A field filled by picking parts of bodies: in the view, or from a list that lights up what it names. */
export function PartsField<T extends FaceRef | EdgeRef | CornerRef>({
  field,
  value,
  choices,
  same: alike,
  max,
  noun,
  below,
  onChange,
}: {
  field: Field;
  value: T[];
  choices: { body: BodyView; list: Choice<T>[] }[];
  same(kept: T, choice: T): boolean;
  max: number | undefined;
  noun: string;
  /** What stands below a picked one. */
  below?(ref: T, known: Choice<T> | undefined): ReactNode;
  onChange(value: T[]): void;
}) {
  const set = useWorkspace((state) => state.set);
  const found = useFound();
  const same = asNow(found, alike);
  const all = choices.flatMap(({ body, list }) => list.map((choice) => ({ ...choice, body })));
  return (
    <fieldset aria-label={field.label} className="min-w-0">
      <PickHead field={field} count={value.length} hint="Pick in the view" />
      {field.help ? <p className="mb-1 text-[0.8125rem] text-soft">{field.help}</p> : null}
      {value.length > 0 ? (
        <ul className="mb-1 flex flex-col gap-1">
          {value.map((ref) => {
            const known = all.find((choice) => same(ref, choice.ref));
            const at = found.part(ref);
            return (
              <li
                key={JSON.stringify(ref)}
                className="rounded border border-line bg-sheet px-2 py-1"
                onPointerEnter={() => known && set({ hover: known.hover })}
                onPointerLeave={() => set({ hover: null })}
              >
                <div className="flex items-center justify-between gap-2">
                  <span className="min-w-0 truncate">
                    {known
                      ? `${known.body.name}: ${known.words}`
                      : at
                        ? `Found by its ${noun === "corner" ? "place" : "shape"}`
                        : `Not found any more: pick the ${noun} again`}
                    {known && at?.guessed ? <span className="text-warn"> – guessed</span> : null}
                  </span>
                  <button
                    type="button"
                    className="rounded px-1 text-soft hover:text-bad"
                    aria-label={`Take this ${noun} out`}
                    onClick={() => onChange(value.filter((other) => other !== ref))}
                  >
                    ×
                  </button>
                </div>
                {below?.(ref, known)}
              </li>
            );
          })}
        </ul>
      ) : null}
      <details className="rounded border border-line bg-sheet">
        <summary className="cursor-pointer px-2 py-1.5">Pick from a list</summary>
        <div className="max-h-52 relative overflow-auto border-t border-line px-2 py-1">
          {choices.map(({ body, list }) => (
            <fieldset key={body.id} className="mb-2">
              <legend className="text-[0.8125rem] font-medium">{body.name}</legend>
              {list.map(({ ref, words, hover }) => (
                <div
                  key={JSON.stringify(ref)}
                  className="py-0.5"
                  onPointerEnter={() => set({ hover })}
                  onPointerLeave={() => set({ hover: null })}
                >
                  <Check
                    checked={value.some((other) => same(other, ref))}
                    onChange={() => onChange(togglePart(value, ref, same, max))}
                  >
                    {words}
                  </Check>
                </div>
              ))}
            </fieldset>
          ))}
        </div>
      </details>
    </fieldset>
  );
}

export function FacesField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { kind: "faces" }>;
  value: FaceRef[];
  onChange(value: FaceRef[]): void;
}) {
  const unit = useJob((state) => state.job.units);
  const found = useFound();
  const bodies = usePickable().filter(isBodyView);
  const choices = bodies.map((body) => ({
    body,
    list: body.faces.flatMap((face, place) =>
      field.accepts === "any" || face.kind === field.accepts
        ? [{ ref: faceRef(body, face), words: describeFace(face, unit), hover: { id: body.id, face: place } }]
        : [],
    ),
  }));
  return (
    <PartsField
      field={field}
      value={value}
      choices={choices}
      same={sameFace}
      max={field.max}
      noun="face"
      {...(field.rules
        ? {
            below: (ref: FaceRef, known) => (
              <FaceRuleChoice
                face={ref}
                kind={bodies.find(({ id }) => id === known?.hover.id)?.faces[known?.hover.face ?? -1]?.kind ?? ""}
                count={found.part(ref)?.all?.length ?? null}
                onChange={(next) => onChange(value.map((other) => (other === ref ? next : other)))}
              />
            ),
          }
        : {})}
      onChange={onChange}
    />
  );
}

export function EdgesField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { kind: "edges" }>;
  value: EdgeRef[];
  onChange(value: EdgeRef[]): void;
}) {
  const unit = useJob((state) => state.job.units);
  const choices = usePickable()
    .filter(isBodyView)
    .map((body) => ({
      body,
      list: body.edges.flatMap((edge, place) =>
        edge && (field.accepts === "any" || edge.kind === field.accepts)
          ? [
              {
                ref: edgeRef(body, edge),
                words: describeEdge(edge, unit),
                hover: { id: body.id, face: null, edge: place },
              },
            ]
          : [],
      ),
    }));
  return (
    <PartsField
      field={field}
      value={value}
      choices={choices}
      same={sameEdge}
      max={field.max}
      noun="edge"
      onChange={onChange}
    />
  );
}

export function CornersField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { kind: "corners" }>;
  value: CornerRef[];
  onChange(value: CornerRef[]): void;
}) {
  const unit = useJob((state) => state.job.units);
  const choices = usePickable()
    .filter(isBodyView)
    .map((body) => ({
      body,
      list: body.corners.map((corner, place) => ({
        ref: cornerRef(body, corner),
        words: describeCorner(corner, unit),
        hover: { id: body.id, face: null, corner: place },
      })),
    }));
  return (
    <PartsField
      field={field}
      value={value}
      choices={choices}
      same={sameCorner}
      max={field.max}
      noun="corner"
      onChange={onChange}
    />
  );
}

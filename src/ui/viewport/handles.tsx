"use client";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { formatLength } from "../settings/format";
import { useFound, useJob, usePart, useScope, useStores, useWorkspace } from "../state/context";
import { draggedTo, type Handle, handlesOf, stepFor } from "../state/handles";
import type { ViewScene } from "./scene";

/** Numbers of the open step and of what it cuts with, as arrows in the view that are dragged or typed over: the pieces follow. */
export function Handles({ scene }: { scene: ViewScene | null }) {
  const open = useWorkspace(({ editing, picking }) =>
    editing && picking === null && (editing.step.type === "seam" || editing.step.type === "workplane")
      ? editing.step.id
      : null,
  );
  return scene && open ? <Arrows scene={scene} /> : null;
}

function Arrows({ scene }: { scene: ViewScene }) {
  const [, tick] = useState(0);
  useEffect(() => scene.onView(() => tick((n) => n + 1)), [scene]);
  const { workspace, job } = useStores();
  const editing = useWorkspace((state) => state.editing);
  const evaluation = useWorkspace((state) => state.evaluation);
  const dragged = useWorkspace((state) => state.dragged);
  const following = useWorkspace((state) => state.engine.kind === "computing");
  const part = usePart();
  const scope = useScope();
  const found = useFound();
  const handles = useMemo(
    () => handlesOf({ editing, evaluation, dragged }, part, found, scope),
    [editing, evaluation, dragged, part, found, scope],
  );
  const own = (handle: Handle) => handle.step === editing?.step.id;
  const show = (handle: Handle, value: number) => {
    if (own(handle)) workspace.getState().setValues({ [handle.field]: value });
    else workspace.getState().set({ dragged: { step: handle.step, set: { [handle.field]: value } } });
  };
  /** The number as it stands is kept: of the open step it is, until that is left. */
  const keep = (handle: Handle, value: number) => {
    if (own(handle)) return;
    job.store.getState().editPart(part.id, `Move ${handle.name}`, (draft) => {
      const step = draft.steps.find(({ id }) => id === handle.step);
      if (step) step[handle.field] = value;
    });
    workspace.getState().set({ dragged: null });
  };
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {handles.map((handle) => (
        <Arrow
          key={handle.step}
          scene={scene}
          handle={handle}
          following={following && (dragged?.step === handle.step || own(handle))}
          onShow={(value) => show(handle, value)}
          onKeep={(value) => keep(handle, value)}
        />
      ))}
    </div>
  );
}

/** Pixels from the plane to the grip. */
const OUT = 44;

function Arrow({
  scene,
  handle,
  following,
  onShow,
  onKeep,
}: {
  scene: ViewScene;
  handle: Handle;
  /** Whether what is shown is not yet what the number says. */
  following: boolean;
  onShow(value: number): void;
  onKeep(value: number): void;
}) {
  const unit = useJob((state) => state.job.units);
  const { way, value, name, formula } = handle;
  // At the rim, where it hides no piece.
  const at = scene.planeRim(handle.item) ?? handle.at;
  const grip = useRef<{ x: number; y: number; value: number; moved: boolean } | null>(null);
  const [typing, setTyping] = useState<string | null>(null);
  const from = scene.project(at);
  const to = scene.project([at[0] + way[0], at[1] + way[1], at[2] + way[2]]);
  const perMm = Math.hypot(to.x - from.x, to.y - from.y);
  // Seen end-on it has no length to be dragged along: it can be typed all the same.
  const flat = perMm < 1e-3;
  const line = flat ? { x: 0, y: -1 } : { x: (to.x - from.x) / perMm, y: (to.y - from.y) / perMm };
  const step = stepFor(perMm);
  const place = { left: from.x + line.x * OUT, top: from.y + line.y * OUT };
  const put = (next: number) => {
    onShow(next);
    onKeep(next);
  };
  const move = (event: PointerEvent) => {
    const begun = grip.current;
    if (!begun || flat) return;
    const along = (event.clientX - begun.x) * line.x + (event.clientY - begun.y) * line.y;
    const next = draggedTo(begun.value, along / perMm, step);
    if (next === value) return;
    begun.moved = true;
    onShow(next);
  };
  const leave = () => {
    if (grip.current?.moved) onKeep(value);
    grip.current = null;
  };
  const press = (event: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (by === undefined || formula !== null) return;
    event.preventDefault();
    event.stopPropagation();
    put(draggedTo(value, by * step, step));
  };
  const type = (text: string | null) => {
    setTyping(null);
    if (text === null) return;
    const typed = Number(text.replace(",", ".")) * (unit === "inch" ? 25.4 : 1);
    if (text.trim() !== "" && Number.isFinite(typed)) put(Number(typed.toFixed(6)));
  };
  return (
    <>
      <svg aria-hidden="true" className="absolute inset-0 size-full">
        <g stroke="var(--ink)" strokeWidth={1.6} fill="none" opacity={formula === null ? 1 : 0.5}>
          <line x1={from.x} y1={from.y} x2={place.left} y2={place.top} />
          <circle cx={from.x} cy={from.y} r={2.5} fill="var(--ink)" />
        </g>
      </svg>
      <button
        type="button"
        role="slider"
        data-handle={name}
        aria-label={`${name}: offset`}
        aria-valuenow={value}
        aria-valuetext={formatLength(value, unit)}
        aria-disabled={formula !== null}
        title={
          formula === null
            ? `Drag to move ${name}; the arrow keys move it by ${formatLength(step, unit)}.`
            : `${name} is at ${formula}: change that in its own step.`
        }
        onPointerDown={(event) => {
          if (formula !== null || event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          grip.current = { x: event.clientX, y: event.clientY, value, moved: false };
        }}
        onPointerMove={move}
        onPointerUp={leave}
        onPointerCancel={leave}
        onKeyDown={press}
        className="pointer-events-auto absolute grid size-7 -translate-1/2 cursor-grab touch-none place-items-center rounded-sm border border-ink bg-sheet text-ink shadow hover:bg-pick-wash active:cursor-grabbing aria-disabled:cursor-not-allowed aria-disabled:opacity-60"
        style={place}
      >
        <svg
          viewBox="-10 -10 20 20"
          width={18}
          height={18}
          aria-hidden="true"
          fill="none"
          stroke="currentColor"
          strokeWidth={2}
        >
          <g transform={`rotate(${((Math.atan2(line.y, line.x) * 180) / Math.PI).toFixed(1)})`}>
            <path d="M-8-6v12M8-6v12M-5 0H5M-2-3-5 0l3 3M2-3 5 0 2 3" />
          </g>
        </svg>
      </button>
      {typing !== null ? (
        <Typed
          label={`${name}: offset, typed`}
          start={typing}
          place={{ left: place.left + 18, top: place.top - 12 }}
          onDone={type}
        />
      ) : (
        <button
          type="button"
          data-exact={!following}
          disabled={formula !== null}
          title={following ? "What is shown follows" : "What is shown is exact. Press to type it."}
          onClick={() => setTyping(String(Number((value / (unit === "inch" ? 25.4 : 1)).toFixed(6))))}
          className="num pointer-events-auto absolute h-6 rounded border border-line bg-sheet px-1.5 text-[0.8125rem] whitespace-nowrap hover:border-ink"
          style={{ left: place.left + 18, top: place.top - 12 }}
        >
          {formatLength(value, unit)}
          {following ? " …" : ""}
        </button>
      )}
    </>
  );
}

/** The number, typed over. @param onDone with null where it is left as it was. */
function Typed({
  label,
  start,
  place,
  onDone,
}: {
  label: string;
  start: string;
  place: { left: number; top: number };
  onDone(text: string | null): void;
}) {
  const [text, setText] = useState(start);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.select(), []);
  return (
    <input
      ref={field}
      aria-label={label}
      inputMode="decimal"
      value={text}
      onChange={({ target }) => setText(target.value)}
      onBlur={() => onDone(text)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") onDone(text);
        if (event.key === "Escape") onDone(null);
      }}
      className="num pointer-events-auto absolute h-6 w-20 rounded border border-ink bg-sheet px-1 text-[0.8125rem]"
      style={place}
    />
  );
}

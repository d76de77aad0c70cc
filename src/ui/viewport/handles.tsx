"use client";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { setParameter } from "@/core/job";
import { formatAngle, formatLength } from "../settings/format";
import { useFound, useJob, usePart, useStores, useWorkspace } from "../state/context";
import { draggedTo, type Handle, handlesOf, inUnit, mayBe, stepFor, withDragged, withNumber } from "../state/handles";
import { scopeIn } from "../state/open-values";
import type { ViewScene } from "./scene";

/** Numbers of the open step and of what it cuts with, as arrows in the view that are dragged or typed over: what is shown follows. */
export function Handles({ scene }: { scene: ViewScene | null }) {
  const open = useWorkspace(({ editing }) => editing?.step.id ?? null);
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
  const part = usePart().id;
  const kept = useJob((state) => state.job);
  const shownJob = useMemo(() => withDragged(kept, part, dragged), [kept, part, dragged]);
  const found = useFound();
  const handles = useMemo(
    () => handlesOf({ editing, evaluation }, shownJob, part, found),
    [editing, evaluation, shownJob, part, found],
  );
  // What is in hand stays, also while there is no place for it: until the round of its radius is there, or where the step fails on the way.
  const [held, setHeld] = useState<Handle | null>(null);
  const own = ({ step, parameter }: Handle) => !parameter && step === editing?.step.id;
  const stepOf = ({ step }: Handle) =>
    step === editing?.step.id
      ? editing.step
      : shownJob.parts.find(({ id }) => id === part)!.steps.find(({ id }) => id === step);
  // Not longer than its step: that may be undone by key while the arrow has the focus.
  const lost = held !== null && stepOf(held) !== undefined && !handles.some((one) => keyOf(one) === keyOf(held));
  const show = (handle: Handle, value: number): boolean => {
    const step = stepOf(handle);
    if (!step || !mayBe(step, handle, value, scopeIn(shownJob, part))) return false;
    if (held && keyOf(held) === keyOf(handle)) setHeld({ ...handle, value });
    const { parameter } = handle;
    const set = withNumber(step, handle, value);
    if (own(handle)) {
      workspace.getState().setValues(set);
      workspace.getState().set({ inHand: true });
    } else
      workspace.getState().set({
        dragged: parameter ? { parameter, value: inUnit(parameter, value) } : { step: handle.step, set },
      });
    return true;
  };
  /** The number as it stands is kept: of the open step it is, until that is left. */
  const keep = (handle: Handle, value: number) => {
    if (own(handle)) {
      workspace.getState().set({ inHand: false });
      return;
    }
    const { parameter } = handle;
    const { edit, editPart } = job.store.getState();
    if (parameter)
      edit(`Change ${parameter.name}`, (draft) =>
        setParameter(draft, parameter.owner, parameter.name, { formula: inUnit(parameter, value) }),
      );
    else
      editPart(part, `Move ${handle.name}`, (draft) => {
        const step = draft.steps.find(({ id }) => id === handle.step);
        if (step) Object.assign(step, withNumber(step, handle, value));
      });
    workspace.getState().set({ dragged: null });
  };
  const isDragged = ({ step, parameter }: Handle) =>
    dragged !== null &&
    ("parameter" in dragged ? dragged.parameter.name === parameter?.name : dragged.step === step && !parameter);
  const all = lost ? [...handles, held] : handles;
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {all.map((handle) => (
        <Arrow
          key={keyOf(handle)}
          scene={scene}
          handle={handle}
          small={all.length > MANY}
          onHold={setHeld}
          following={following && (isDragged(handle) || own(handle))}
          onShow={(value) => show(handle, value)}
          onKeep={(value) => keep(handle, value)}
        />
      ))}
    </div>
  );
}

const keyOf = ({ step, field, index }: Handle): string => `${step}.${field}.${index ?? 0}`;

/** More arrows than these would hide what they are on: they are small but for one that is pointed at or has the focus. */
const MANY = 8;

/** Pixels from the place to the grip: farther where three begin at one. */
const OUT = { alone: 44, several: 62 };

function Arrow({
  scene,
  handle,
  small,
  following,
  onHold,
  onShow,
  onKeep,
}: {
  scene: ViewScene;
  handle: Handle;
  /** Whether it is one of many. */
  small: boolean;
  /** It has come into hand, or none is any more. */
  onHold(handle: Handle | null): void;
  /** Whether what is shown is not yet what the number says. */
  following: boolean;
  /** False where the step may not have that number. */
  onShow(value: number): boolean;
  onKeep(value: number): void;
}) {
  const unit = useJob((state) => state.job.units);
  const { way, value, name, label, kind, rate, formula, parameter } = handle;
  const means = parameter ? `${label} (${parameter.name}, and all that uses it)` : label;
  const at = (handle.rim && scene.planeRim(handle.rim)) || handle.at;
  const shown = (number: number) => (kind === "angle" ? formatAngle(number) : formatLength(number, unit));
  const scaled = kind === "length" && unit === "inch" ? 25.4 : 1;
  const grip = useRef<{ x: number; y: number; value: number; moved: boolean } | null>(null);
  const [typing, setTyping] = useState<string | null>(null);
  const [pointed, setPointed] = useState(false);
  const [focused, setFocused] = useState(false);
  const whole = !small || pointed || focused || typing !== null;
  const from = scene.project(at);
  const to = scene.project([at[0] + way[0], at[1] + way[1], at[2] + way[2]]);
  const seen = Math.hypot(to.x - from.x, to.y - from.y);
  // Seen end-on it has no length to be dragged along: it can be typed all the same.
  const flat = seen < 1e-3;
  const line = flat ? { x: 0, y: -1 } : { x: (to.x - from.x) / seen, y: (to.y - from.y) / seen };
  const perUnit = seen * rate;
  const step = stepFor(perUnit, kind);
  const out = handle.index === undefined ? OUT.alone : OUT.several;
  const place = { left: from.x + line.x * out, top: from.y + line.y * out };
  const beside = { left: place.left + (line.x < -0.3 ? -18 : 18), top: place.top - 12 };
  const side = line.x < -0.3 ? "-translate-x-full" : "";
  const put = (next: number) => {
    if (onShow(next)) onKeep(next);
  };
  const move = (event: PointerEvent) => {
    const begun = grip.current;
    if (!begun || flat) return;
    const along = (event.clientX - begun.x) * line.x + (event.clientY - begun.y) * line.y;
    const next = draggedTo(begun.value, along / perUnit, step);
    if (next === value) return;
    begun.moved = onShow(next) || begun.moved;
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
    const typed = Number(text.replace(",", ".")) * scaled;
    if (text.trim() !== "" && Number.isFinite(typed)) put(Number(typed.toFixed(6)));
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it hears of the focus of what is in it
    <div
      className={small && whole ? "absolute inset-0 z-10" : "contents"}
      onFocus={() => {
        setFocused(true);
        onHold(handle);
      }}
      onBlur={() => {
        setFocused(false);
        onHold(null);
      }}
      onPointerEnter={() => setPointed(true)}
      onPointerLeave={() => setPointed(false)}
    >
      <svg aria-hidden="true" className="absolute inset-0 size-full">
        <g stroke="var(--ink)" strokeWidth={1.6} fill="none" opacity={!whole ? 0.25 : formula === null ? 1 : 0.5}>
          <line x1={from.x} y1={from.y} x2={place.left} y2={place.top} />
          <circle cx={from.x} cy={from.y} r={2.5} fill="var(--ink)" />
        </g>
      </svg>
      <button
        type="button"
        role="slider"
        data-handle={name}
        aria-label={`${name}: ${label}`}
        aria-valuenow={value}
        aria-valuetext={shown(value)}
        aria-disabled={formula !== null}
        title={
          formula === null
            ? `${name}: ${means}. Drag it; the arrow keys change it by ${shown(step)}.`
            : `${name}: ${label} is ${formula}: change that in its own step.`
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
        className={`pointer-events-auto absolute grid -translate-1/2 cursor-grab touch-none place-items-center rounded-sm border border-ink bg-sheet text-ink hover:bg-pick-wash active:cursor-grabbing aria-disabled:cursor-not-allowed aria-disabled:opacity-60 ${whole ? "size-7 shadow" : "size-4"}`}
        style={place}
      >
        <svg
          viewBox="-10 -10 20 20"
          width={whole ? 18 : 12}
          height={whole ? 18 : 12}
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
      {!whole ? null : typing !== null ? (
        <Typed label={`${name}: ${label}, typed`} start={typing} place={beside} onDone={type} />
      ) : (
        <button
          type="button"
          data-exact={!following}
          disabled={formula !== null}
          title={following ? "What is shown follows" : "What is shown is exact. Press to type it."}
          onClick={() => setTyping(String(Number((value / scaled).toFixed(6))))}
          className={`num pointer-events-auto absolute h-6 rounded border border-line bg-sheet px-1.5 text-[0.8125rem] whitespace-nowrap before:absolute before:-inset-x-2 before:inset-y-0 hover:border-ink ${side}`}
          style={beside}
        >
          <span className="font-sans text-soft">
            {small ? `${name} ` : ""}
            {parameter?.name ?? (handle.index === undefined ? label : "XYZ"[handle.index])}
          </span>{" "}
          {shown(value)}
          {following ? " …" : ""}
        </button>
      )}
    </div>
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

"use client";
import { Moon, Pencil, Redo2, Search, SlidersHorizontal, Sun, Undo2 } from "lucide-react";
import Link from "next/link";
import { useEffect, useState } from "react";
import { addPart } from "@/core/job";
import { useKeysOf } from "../commands/use-keys-of";
import { Button, Choice, IconButton } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useJob, usePart, useWorkspace } from "../state/context";
import type { SaveState } from "../state/job-store";
import { isBehind } from "../state/links";
import { LEAVE_WHOLE, SEE_WHOLE } from "../state/others";
import { stepTitle } from "../state/step-title";
import { DeletePart } from "./delete-part";
import { FitMark } from "./fit-mark";
import { LinkMark } from "./link-mark";
import { RenameBox } from "./rename-box";
import { useTheme } from "./theme";

export function TopBar({ stop }: { stop(): void }) {
  const { name, units } = useJob((state) => state.job);
  const undoLabel = useJob((state) => state.undoLabel);
  const redoLabel = useJob((state) => state.redoLabel);
  const { undo, redo, edit } = useJob((state) => state);
  const theme = useTheme();
  const set = useWorkspace((state) => state.set);
  const findKey = useKeysOf("find");
  const settingsKey = useKeysOf("settings");
  return (
    <header className="flex h-12 shrink-0 items-center gap-2 border-b border-line bg-sheet px-3">
      <Link href="/" className="shrink-0 rounded px-1.5 py-1 text-soft hover:bg-well hover:text-ink">
        Jobs
      </Link>
      <span className="text-rule">/</span>
      <Renamable
        value={name}
        label="Rename the job"
        onDone={(next) =>
          edit(`Call the job ${next}`, (draft) => {
            draft.name = next;
          })
        }
      />
      <PartChooser />
      <ParametersButton />
      <div className="ml-2 flex shrink-0">
        <IconButton
          label={undoLabel ? `Undo: ${undoLabel}` : "Nothing to undo"}
          keys={useKeysOf("undo")}
          disabled={!undoLabel}
          onClick={() => void undo()}
        >
          <Undo2 size={17} aria-hidden />
        </IconButton>
        <IconButton
          label={redoLabel ? `Redo: ${redoLabel}` : "Nothing to redo"}
          keys={useKeysOf("redo")}
          disabled={!redoLabel}
          onClick={() => void redo()}
        >
          <Redo2 size={17} aria-hidden />
        </IconButton>
      </div>
      <SaveMark />
      <FitMark />
      <LinkMark />
      <div className="grow" />
      <EngineMark stop={stop} />
      <div className="shrink-0">
        <Choice
          hideLabel
          label="Units shown"
          value={units}
          options={[
            { value: "mm", label: "mm" },
            { value: "inch", label: "in" },
          ]}
          onChange={(next) =>
            edit(`Show ${next === "mm" ? "millimetres" : "inches"}`, (draft) => {
              draft.units = next;
            })
          }
        />
      </div>
      <Button small className="shrink-0 gap-2" onClick={() => set({ dialog: "find" })}>
        <Search size={14} aria-hidden />
        Find
        <kbd className="num text-soft">{findKey}</kbd>
      </Button>
      <IconButton label="Settings and keys" keys={settingsKey} onClick={() => set({ dialog: "settings" })}>
        <SlidersHorizontal size={16} aria-hidden />
      </IconButton>
      <IconButton label={theme.dark ? "Paper" : "Graphite"} className="shrink-0" onClick={theme.toggle}>
        {theme.dark ? <Sun size={17} aria-hidden /> : <Moon size={17} aria-hidden />}
      </IconButton>
    </header>
  );
}

/** The job's name, as a heading that turns into a box. */
function Renamable({ value, label, onDone }: { value: string; label: string; onDone(name: string): void }) {
  const [open, setOpen] = useState(false);
  if (open)
    return (
      <div className="w-56 min-w-24 shrink">
        <RenameBox
          value={value}
          placeholder={value}
          onDone={(name) => {
            setOpen(false);
            if (name?.trim()) onDone(name.trim());
          }}
        />
      </div>
    );
  return (
    <h1 className="min-w-0 truncate text-[1.0625rem] font-semibold">
      <button
        type="button"
        title={`${label}: ${value}`}
        onClick={() => setOpen(true)}
        className="max-w-full truncate rounded hover:underline"
      >
        {value}
      </button>
    </h1>
  );
}

const NEW_PART = "new";
const WHOLE = "whole";

/** Which part of the job is on the sheet; parts are added and renamed here, too. */
function PartChooser() {
  const parts = useJob((state) => state.job.parts);
  const edit = useJob((state) => state.edit);
  const part = useWorkspace((state) => state.part);
  const editing = useWorkspace((state) => state.editing);
  const set = useWorkspace((state) => state.set);
  const whole = useWorkspace((state) => state.whole);
  const links = useWorkspace((state) => state.links);
  const behind = new Set(links?.flatMap((link) => (isBehind(link) ? [link.part] : [])));
  const [renaming, setRenaming] = useState(false);
  const show = (id: string) => {
    // What is shown already is not built anew, so it is not taken away either.
    if (id !== part)
      set({ ...LEAVE_WHOLE, part: id, editing: null, picking: null, evaluation: null, alone: null, comparing: null });
    else set(LEAVE_WHOLE);
  };
  const current = parts.find((entry) => entry.id === part);

  function choose(value: string): void {
    if (value === WHOLE) {
      set(SEE_WHOLE);
      return;
    }
    if (value !== NEW_PART) {
      show(value);
      return;
    }
    let id = part;
    edit("Add a part", (draft) => {
      id = addPart(draft, `Part ${draft.parts.length + 1}`);
    });
    show(id);
  }

  if (renaming && current)
    return (
      <div className="w-44">
        <RenameBox
          value={current.name}
          placeholder={current.name}
          onDone={(name) => {
            setRenaming(false);
            if (name?.trim())
              edit(`Call the part ${name.trim()}`, (draft) => {
                draft.parts.find((entry) => entry.id === part)!.name = name.trim();
              });
          }}
        />
      </div>
    );
  return (
    <div className="ml-1 flex shrink-0 items-center gap-1">
      <label className="flex items-center gap-1.5">
        <span className="text-[0.8125rem] text-soft">Part</span>
        <select
          aria-label="Part"
          value={whole ? WHOLE : part}
          disabled={editing !== null}
          onChange={(event) => choose(event.target.value)}
          className="h-8 max-w-48 rounded border border-line bg-sheet px-1.5 disabled:opacity-50"
        >
          <option value={WHOLE}>The whole job</option>
          {parts.map((entry) => (
            <option key={entry.id} value={entry.id}>
              {entry.name}
              {behind.has(entry.id) ? " (behind)" : ""}
            </option>
          ))}
          <option value={NEW_PART}>Add a part</option>
        </select>
      </label>
      <IconButton label="Rename the part" className="size-7!" disabled={whole} onClick={() => setRenaming(true)}>
        <Pencil size={14} aria-hidden />
      </IconButton>
      {editing || whole ? null : <DeletePart onDone={show} />}
    </div>
  );
}

function ParametersButton() {
  const open = useWorkspace((state) => state.parametersOpen);
  const set = useWorkspace((state) => state.set);
  const count = useJob((state) => state.job.parameters.length) + usePart().parameters.length;
  return (
    <Button
      small
      className="ml-1 shrink-0 whitespace-nowrap"
      aria-expanded={open}
      onClick={() => set({ parametersOpen: !open })}
    >
      Parameters <span className="num text-soft">{count}</span>
    </Button>
  );
}

const SAVE_WORDS: Record<SaveState["kind"], string> = {
  saved: "Saved",
  saving: "Saving…",
  waiting: "Not saved yet: no server",
  stale: "Not saved: changed elsewhere",
  refused: "Not taken",
};

function SaveMark() {
  const save = useJob((state) => state.save);
  const mark = save.kind === "saved" ? "good" : save.kind === "saving" ? "waiting" : "warned";
  return (
    <p
      role="status"
      data-save={save.kind}
      className={`flex shrink-0 items-center gap-1 whitespace-nowrap text-[0.8125rem] ${save.kind === "saved" || save.kind === "saving" ? "text-soft" : "font-medium text-warn"}`}
    >
      <Mark name={mark} />
      {SAVE_WORDS[save.kind]}
    </p>
  );
}

function EngineMark({ stop }: { stop(): void }) {
  const engine = useWorkspace((state) => state.engine);
  const step = useStepAt(engine.kind === "computing" ? engine.done : -1);
  useTicking(engine.kind === "computing");
  if (engine.kind === "idle")
    return (
      <span data-engine="idle" className="sr-only" role="status">
        Built
      </span>
    );
  const text =
    engine.kind === "starting"
      ? "Getting the geometry engine ready…"
      : engine.kind === "computing"
        ? `Building ${Math.min(engine.done + 1, engine.total)} of ${engine.total}`
        : engine.kind === "stopped"
          ? "Stopped"
          : engine.message;
  const waited = engine.kind === "computing" ? Math.floor((performance.now() - engine.since) / 1000) : 0;
  // What it is at is told to those who wait; read out each second it would drown all else.
  const more =
    engine.kind === "computing" && waited >= LONG ? [step, engine.stage, `${waited} s`].filter(Boolean).join(", ") : "";
  return (
    <div data-engine={engine.kind} className="flex min-w-0 items-center gap-2 text-[0.8125rem] text-soft">
      <span role="status" title={more ? `${text}: ${more}` : text} className={more ? "shrink-0" : "truncate"}>
        {text}
      </span>
      {more ? (
        <span data-building title={more} className="truncate">
          {more}
        </span>
      ) : null}
      {engine.kind === "computing" ? (
        <button
          type="button"
          onClick={stop}
          className="shrink-0 rounded border border-line px-2 py-0.5 text-ink hover:bg-well"
        >
          Stop
        </button>
      ) : null}
    </div>
  );
}

/** Seconds that a step may take before it is said what it is at. */
const LONG = 2;

/** The title of the step that is built when so many are done. */
function useStepAt(done: number): string | null {
  const part = useWorkspace((state) => state.part);
  const step = useJob((state) => state.job.parts.find(({ id }) => id === part)?.steps[done]);
  return step ? stepTitle(step) : null;
}

/** Draws anew twice a second while something goes on. */
function useTicking(going: boolean): void {
  const [, tick] = useState(0);
  useEffect(() => {
    if (!going) return;
    const timer = setInterval(() => tick((count) => count + 1), 500);
    return () => clearInterval(timer);
  }, [going]);
}

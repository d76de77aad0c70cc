"use client";
import { Moon, Redo2, Sun, Undo2 } from "lucide-react";
import Link from "next/link";
import { Choice, IconButton } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useJob, useWorkspace } from "../state/context";
import type { SaveState } from "../state/job-store";
import { useTheme } from "./theme";

export function TopBar({ stop }: { stop(): void }) {
  const { name, units, parts } = useJob((state) => state.job);
  const undoLabel = useJob((state) => state.undoLabel);
  const redoLabel = useJob((state) => state.redoLabel);
  const { undo, redo, edit } = useJob((state) => state);
  const part = useWorkspace((state) => state.part);
  const set = useWorkspace((state) => state.set);
  const theme = useTheme();
  return (
    <header className="flex h-12 items-center gap-2 border-b border-line bg-sheet px-3">
      <Link href="/" className="rounded px-1.5 py-1 text-soft hover:bg-well hover:text-ink">
        Jobs
      </Link>
      <span className="text-rule">/</span>
      <h1 className="truncate text-[17px] font-semibold">{name}</h1>
      <label className="ml-1 flex items-center gap-1.5">
        <span className="text-[13px] text-soft">Part</span>
        <select
          value={part}
          onChange={(event) => set({ part: event.target.value, editing: null, selected: null, evaluation: null })}
          className="h-8 max-w-48 rounded border border-line bg-sheet px-1.5"
        >
          {parts.map((entry) => (
            <option key={entry.id} value={entry.id}>
              {entry.name}
            </option>
          ))}
        </select>
      </label>
      <div className="ml-2 flex">
        <IconButton
          label={undoLabel ? `Undo: ${undoLabel}` : "Nothing to undo"}
          keys="Ctrl Z"
          disabled={!undoLabel}
          onClick={() => void undo()}
        >
          <Undo2 size={17} aria-hidden />
        </IconButton>
        <IconButton
          label={redoLabel ? `Redo: ${redoLabel}` : "Nothing to redo"}
          keys="Ctrl Shift Z"
          disabled={!redoLabel}
          onClick={() => void redo()}
        >
          <Redo2 size={17} aria-hidden />
        </IconButton>
      </div>
      <SaveMark />
      <div className="grow" />
      <EngineMark stop={stop} />
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
      <IconButton label={theme.dark ? "Paper" : "Graphite"} onClick={theme.toggle}>
        {theme.dark ? <Sun size={17} aria-hidden /> : <Moon size={17} aria-hidden />}
      </IconButton>
    </header>
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
      className={`flex items-center gap-1 text-[13px] ${save.kind === "saved" || save.kind === "saving" ? "text-soft" : "font-medium text-warn"}`}
    >
      <Mark name={mark} />
      {SAVE_WORDS[save.kind]}
    </p>
  );
}

function EngineMark({ stop }: { stop(): void }) {
  const engine = useWorkspace((state) => state.engine);
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
  return (
    <div data-engine={engine.kind} className="flex items-center gap-2 text-[13px] text-soft">
      <span role="status">{text}</span>
      {engine.kind === "computing" ? (
        <button type="button" onClick={stop} className="rounded border border-line px-2 py-0.5 text-ink hover:bg-well">
          Stop
        </button>
      ) : null}
    </div>
  );
}

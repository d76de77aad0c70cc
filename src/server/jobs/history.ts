/** An entry of the log as the stacks need it. */
export interface LogEntry {
  id: number;
  kind: "edit" | "undo" | "redo";
  of: number | null;
  label: string;
}

export interface Stacks {
  /** Edits that can be undone, the latest last. */
  undo: { id: number; label: string }[];
  /** Edits that can be done again, the next one last. */
  redo: { id: number; label: string }[];
}

/** Reads the undo and redo stacks off the log: an edit clears what could be redone, an undo moves an edit across. */
export function stacksOf(log: readonly LogEntry[]): Stacks {
  const undo: Stacks["undo"] = [];
  let redo: Stacks["redo"] = [];
  for (const entry of log) {
    if (entry.kind === "edit") {
      undo.push({ id: entry.id, label: entry.label });
      redo = [];
    } else if (entry.kind === "undo") {
      const moved = undo.pop();
      if (moved) redo.push(moved);
    } else {
      const moved = redo.pop();
      if (moved) undo.push(moved);
    }
  }
  return { undo, redo };
}

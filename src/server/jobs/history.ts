/** An entry of the log as the stacks need it. */
export interface LogEntry {
  id: number;
  kind: "edit" | "undo" | "redo";
}

/** The tops of both stacks, and what lies under each change that is on one: as the log's rows keep it. */
export interface Stacks {
  /** The edit that can be taken back. */
  undoTop: number | null;
  /** The undo that can be taken back. */
  redoTop: number | null;
  under: Map<number, number | null>;
}

/**
 * Reads the undo and redo stacks off a log whose rows do not keep them: an edit clears what could be redone, an undo
 * moves an edit across. Only for what an earlier release wrote; later rows keep what lies under them.
 */
export function stacksOf(log: readonly LogEntry[]): Stacks {
  const under: Stacks["under"] = new Map();
  const undo: number[] = [];
  let redo: { undo: number; edit: number }[] = [];
  for (const { id, kind } of log) {
    if (kind === "edit") {
      under.set(id, undo.at(-1) ?? null);
      undo.push(id);
      redo = [];
    } else if (kind === "undo") {
      const edit = undo.pop();
      if (edit === undefined) continue;
      under.set(id, redo.at(-1)?.undo ?? null);
      redo.push({ undo: id, edit });
    } else {
      const moved = redo.pop();
      if (moved) undo.push(moved.edit);
    }
  }
  return { undoTop: undo.at(-1) ?? null, redoTop: redo.at(-1)?.undo ?? null, under };
}

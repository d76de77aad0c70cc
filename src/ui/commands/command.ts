import type { Settings } from "../settings/settings";

export type CommandGroup = "Tools" | "Do" | "View" | "Steps" | "Bodies" | "Parts" | "Parameters" | "Help";

/** Something that a person can ask for by typing, by a key, or by a button. */
export interface Command {
  id: string;
  label: string;
  group: CommandGroup;
  /** What it does, in a line. */
  line?: string;
  /** Why it cannot be done now; null where it can. */
  not?: string | null;
  run(): void;
}

/** The commands that have a name of their own, with the keys that they come with. None of the keys is needed. */
export const NAMED = {
  find: { label: "Find anything", keys: "/", line: "Tools, steps, bodies, parts, parameters and views, by typing" },
  undo: { label: "Undo", keys: "Ctrl Z", line: "Takes back the last change of the job" },
  redo: { label: "Redo", keys: "Ctrl Shift Z", line: "Does again what was taken back" },
  keep: { label: "Keep the open step", keys: "Ctrl Enter", line: "Writes the open form into the job" },
  parameters: { label: "Parameters", keys: "P", line: "Named values and formulas of the job and the part" },
  measure: { label: "Measure", keys: "M", line: "One thing, or two and how they lie to each other" },
  section: { label: "Section", keys: "X", line: "Cuts the view open along a plane" },
  release: { label: "Release", keys: "R", line: "Writes files to be cut, printed or cast" },
  fit: { label: "See all", keys: "Home", line: "Fits the view to all that is shown" },
  "fit-picked": { label: "See what is picked", keys: "End", line: "Fits the view to the selected body" },
  frame: { label: "See what is in a frame", keys: "Z", line: "Draw a frame over the view" },
  hide: { label: "Hide or show the selected", keys: "H", line: "The body stays where it is" },
  alone: { label: "Show the selected alone", keys: "O", line: "Hides all else, until asked again" },
  under: { label: "Next under the pointer", keys: "U", line: "Selects what lies behind, one press at a time" },
  menu: {
    label: "What can be done with the picked",
    keys: "D",
    line: "A menu of what goes with the selected face or body",
  },
  views: {
    label: "Views of the part",
    keys: "W",
    line: "Keep how it is looked at now under a name, or go back to one",
  },
  "look-corner": { label: "Look from the corner", keys: "Shift C" },
  "look-front": { label: "Look from the front", keys: "Shift F" },
  "look-back": { label: "Look from the back", keys: "Shift K" },
  "look-left": { label: "Look from the left", keys: "Shift L" },
  "look-right": { label: "Look from the right", keys: "Shift R" },
  "look-top": { label: "Look from above", keys: "Shift T" },
  "look-below": { label: "Look from below", keys: "Shift B" },
  perspective: { label: "Perspective or parallel", keys: "V", line: "Near things larger, or all to one scale" },
  whole: { label: "The whole job", keys: "J", line: "All parts where they stand; again to go back to the part" },
  around: { label: "Other parts round this one", keys: "A", line: "Where they stand, dimmed" },
  floor: { label: "Floor with its scale", keys: "G", line: "A floor under the part, ruled in the job's unit" },
  settings: { label: "Settings", keys: ",", line: "Units, numbers, theme, text, mouse and keys" },
  keys: { label: "All keys", keys: "?", line: "On one page, to be read and changed" },
  walk: { label: "Walk through the demo", keys: "", line: "What this does, in eight stops" },
} as const satisfies Record<string, { label: string; keys: string; line?: string }>;
export type NamedCommand = keyof typeof NAMED;

export const isNamed = (id: string): id is NamedCommand => id in NAMED;

/** The key of a command: as it was changed, or as it comes; empty for none. */
export function keysFor(id: string, changed: Settings["keys"]): string {
  return changed[id] ?? (isNamed(id) ? NAMED[id].keys : "");
}

/** The command that a key belongs to, if any. */
export function commandFor(key: string, changed: Settings["keys"]): string | null {
  const own = Object.entries(changed).find(([, keys]) => keys === key);
  if (own) return own[0];
  return Object.keys(NAMED).find((id) => changed[id] === undefined && NAMED[id as NamedCommand].keys === key) ?? null;
}

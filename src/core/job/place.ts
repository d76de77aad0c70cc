import { valueAt } from "../issues";
import { stepType } from "../steps/registry";
import { fieldLabel } from "../steps/values";

/** What an entry of a list of the job is called. */
const ENTRIES: Record<string, string> = {
  parts: "Part",
  steps: "Step",
  parameters: "Parameter",
  files: "File",
  materials: "Material",
  groups: "Group",
  notes: "Note",
  views: "View",
  places: "Place",
};

const LISTS: Record<string, string> = {
  parts: "The list of parts",
  steps: "The list of steps",
  parameters: "The list of parameters",
  files: "The list of files",
  materials: "The list of materials",
  groups: "The list of groups",
  notes: "The list of notes",
  views: "The list of views",
  names: "The names of bodies",
  looks: "The looks of bodies",
  places: "The list of places",
  fits: "The list of fits",
  kept: "What is kept of parts",
  follow: "Whether links follow",
  hold: "The hold point",
  units: "The unit",
  format: "The format",
  version: "The version",
  name: "The name",
};

/** A place in a job in words of the program: `Part “Plate”, step 3 “Cut”, Size X`. */
export function placeInWords(path: readonly PropertyKey[], job: unknown): string {
  if (path.length === 0) return "The job";
  const words: string[] = [];
  let i = 0;
  while (i < path.length) {
    const [key, place] = [String(path[i]), path[i + 1]];
    const entry = ENTRIES[key];
    if (entry && typeof place === "number") {
      const at = path.slice(0, i + 2);
      // With one part only, saying which adds nothing.
      const alone = key === "parts" && (valueAt(job, ["parts"]) as unknown[] | undefined)?.length === 1;
      if (!alone || path.length === 2) words.push(`${entry} ${place + 1}${called(valueAt(job, at))}`);
      i += 2;
      if (key === "steps" && i < path.length) {
        words.push(fieldInWords(valueAt(job, at), path.slice(i)));
        break;
      }
      continue;
    }
    const label = LISTS[key];
    if (label && i === path.length - 1) words.push(words.length > 0 ? lowered(label) : label);
    else if (label && place !== undefined) {
      words.push(
        words.length > 0 ? lowered(label) : label,
        path
          .slice(i + 1)
          .map((part) => `“${String(part)}”`)
          .join(", "),
      );
      break;
    } else {
      words.push(
        path
          .slice(i)
          .map((part) => (typeof part === "number" ? `entry ${part + 1}` : `“${String(part)}”`))
          .join(", "),
      );
      break;
    }
    i++;
  }
  const [first, ...rest] = words;
  return [first!, ...rest.map(lowered)].join(", ");
}

/** A step of a job, counted from 1: `Step 3 “Cut”`. */
export function stepInWords(job: unknown, part: number, step: number): string {
  return placeInWords(["parts", part, "steps", step], job);
}

function called(entry: unknown): string {
  const { name, id } = (entry ?? {}) as { name?: unknown; id?: unknown };
  const text = typeof name === "string" && name.trim() ? name : typeof id === "string" ? id : "";
  return text ? ` “${text.length > 60 ? `${text.slice(0, 59)}…` : text}”` : "";
}

/** A field of a step by its label, where it has one. */
function fieldInWords(step: unknown, path: readonly PropertyKey[]): string {
  const [key, ...rest] = path.map((part) => (typeof part === "number" ? part + 1 : String(part)));
  const type = (step as { type?: unknown })?.type;
  const known = typeof type === "string" && stepType(type)?.fields.some((field) => field.key === key);
  if (known) {
    try {
      const label = fieldLabel(step as never, path.map(String).join("."));
      const point = path.length === 2 && label !== fieldLabel(step as never, String(key));
      return point || rest.length === 0 ? label : `${fieldLabel(step as never, String(key))}, ${inside(rest)}`;
    } catch {
      // A step that is not made up as its type is has no labels to ask for.
    }
  }
  const plain: Record<string, string> = {
    id: "the id",
    name: "the name",
    type: "the type",
    suppressed: "“suppressed”",
  };
  const head = plain[String(key)] ?? `“${key}”`;
  return rest.length > 0 ? `${head}, ${inside(rest)}` : head;
}

const inside = (rest: readonly (string | number)[]) =>
  rest.map((part) => (typeof part === "number" ? `entry ${part}` : `“${part}”`)).join(", ");

/** Within a sentence; labels of fields stay as the forms show them. */
const lowered = (text: string) =>
  text.replace(/^(Part|Step|Parameter|File|Material|Group|Note|The)\b/, (word) => word.toLowerCase());

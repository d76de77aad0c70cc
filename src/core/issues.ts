import type * as z from "zod";

type Issue = z.core.$ZodIssue;

/** What is at a path of a value. */
export function valueAt(value: unknown, path: readonly PropertyKey[]): unknown {
  let found = value;
  for (const key of path) found = (found as Record<PropertyKey, unknown> | null | undefined)?.[key];
  return found;
}

/** How a kind of value is called. */
const KINDS: Record<string, string> = {
  string: "a text",
  number: "a number",
  int: "a whole number",
  bigint: "a whole number",
  boolean: "true or false",
  array: "a list",
  tuple: "a list",
  object: "a group of named values",
  record: "a group of named values",
  null: "null",
  undefined: "nothing",
  nan: "a number",
};

function kindOf(value: unknown): string {
  if (value === null) return "null";
  if (Array.isArray(value)) return "a list";
  return KINDS[typeof value] ?? "something else";
}

/** A value as a sentence quotes it, kept short. */
function quoted(value: unknown): string {
  const text = typeof value === "string" ? value : (JSON.stringify(value) ?? String(value));
  return `“${text.length > 40 ? `${text.slice(0, 39)}…` : text}”`;
}

const some = (list: readonly string[], most = 6) =>
  list.length > most ? `${list.slice(0, most).join(", ")} and ${list.length - most} more` : list.join(", ");

const counted = (count: number | bigint, one: string, more: string) => `${count} ${Number(count) === 1 ? one : more}`;

/**
 * What is wrong with a value, as the end of a sentence that begins with its place: “has to be a number, not a text”.
 * @param value what was checked, as a whole: the issue's path leads into it.
 */
export function inWords(issue: Issue, value: unknown): string {
  const given = valueAt(value, issue.path);
  // What a schema says in words of its own is better than anything general.
  if (!GENERAL.test(issue.message)) return withoutEnd(issue.message);
  if (typeof given === "number" && !Number.isFinite(given)) return "has to be a finite number";
  switch (issue.code) {
    case "invalid_type": {
      const wanted = KINDS[issue.expected] ?? `a ${issue.expected}`;
      if (given === undefined) return `is missing: it has to be ${wanted}`;
      return `has to be ${wanted}, not ${kindOf(given)}`;
    }
    case "too_small":
    case "too_big": {
      const small = issue.code === "too_small";
      const bound = small ? issue.minimum : issue.maximum;
      if (issue.origin === "array" || issue.origin === "set")
        return small
          ? `needs ${counted(bound, "entry", "entries")} at least`
          : `may have ${counted(bound, "entry", "entries")} at most`;
      if (issue.origin === "string")
        return small && Number(bound) === 1
          ? "must not be empty"
          : `has to have ${counted(bound, "letter", "letters")} at ${small ? "least" : "most"}`;
      const edge = small ? (issue.inclusive ? "at least" : "more than") : issue.inclusive ? "at most" : "less than";
      return `has to be ${edge} ${bound}`;
    }
    case "not_multiple_of":
      return `has to be a multiple of ${issue.divisor}`;
    case "invalid_value": {
      const known = issue.values.map((candidate) => quoted(candidate));
      if (given === undefined) return `is missing: it has to be ${known.length > 1 ? "one of " : ""}${some(known)}`;
      return `has to be ${known.length > 1 ? "one of " : ""}${some(known)}, not ${quoted(given)}`;
    }
    case "unrecognized_keys":
      return `holds ${some(issue.keys.map(quoted))}, which it does not have`;
    case "invalid_union":
      return inUnion(issue, value);
    case "invalid_key":
      return `has a name that it cannot have: it ${issue.issues[0] ? inWords(issue.issues[0] as Issue, value) : "is not known"}`;
    case "invalid_format":
      return "is not written as it has to be";
    default:
      return "cannot be used";
  }
}

/** How the checker's own messages begin. */
const GENERAL = /^(Invalid|Too small|Too big|Unrecognized|Unknown)/;

const withoutEnd = (text: string) => text.replace(/\.$/, "");

/** Of several kinds that a value may be, what is wrong with the one that it is most like. */
function inUnion(issue: Extract<Issue, { code: "invalid_union" }>, value: unknown): string {
  const given = valueAt(value, issue.path);
  if (given === undefined) return "is missing";
  const branches = (issue.errors ?? []).filter((branch) => branch.length > 0);
  // The right kind with something wrong inside says more than another kind.
  const inside = branches.filter((branch) => branch.every((one) => one.code !== "invalid_type" || one.path.length > 0));
  const [best] = [...inside].sort((a, b) => a.length - b.length);
  if (best) {
    const [first] = best;
    const path = first!.path.map(String).join(".");
    const words = inWords({ ...first!, path: [...issue.path, ...first!.path] } as Issue, value);
    return path ? `is wrong at “${path}”, which ${words}` : words;
  }
  const wanted = branches.flatMap((branch) =>
    branch.flatMap((one) =>
      one.code === "invalid_type" && one.path.length === 0 ? [KINDS[one.expected] ?? one.expected] : [],
    ),
  );
  const kinds = [...new Set(wanted)];
  if (kinds.length > 0) return `has to be ${kinds.join(" or ")}, not ${kindOf(given)}`;
  return typeof given === "string" ? `is ${quoted(given)}, which is not known` : "cannot be used";
}

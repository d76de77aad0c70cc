import type * as z from "zod";
import { numberAskedBy } from "@/core/params";
import { fileReferences, partReferences, references } from "@/core/references";
import { type Field, type FieldCondition, STEP_TYPES, type StepType } from "@/core/steps";

/** A page in Markdown of all kinds of steps and their values, from what they declare: nobody writes it by hand. */
export function stepsPage(): string {
  return [
    "# Kinds of steps",
    "",
    "Written by `npm run -s job -- steps`, from the schemas that check a job file; what steps make and call their faces stands in",
    "[job-format.md](job-format.md). A value that is left out is as in “otherwise”; one whose “when” does not hold does nothing.",
    "",
    ...STEP_TYPES.flatMap(section),
  ].join("\n");
}

function section({ type, schema, words, fields }: StepType): string[] {
  const rows = Object.entries((schema as z.ZodObject).shape).map(([key, value]) => {
    const asked = fields.filter((field) => field.key === key);
    return row(key, value as z.ZodType, asked);
  });
  return [
    `## ${type}`,
    "",
    `${words.label}: ${words.line}.`,
    "",
    "| value | is | otherwise | when | what it says |",
    "|---|---|---|---|---|",
    ...rows,
    "",
  ];
}

function row(key: string, schema: z.ZodType, asked: readonly Field[]): string {
  const { inner, otherwise, described } = unwrapped(schema);
  const says = described ?? [asked[0]?.label, asked[0]?.help].filter(Boolean).join(": ");
  const when = [...new Set(asked.map(({ when: condition }) => conditionWords(condition)))].filter(Boolean);
  const cells = [
    `\`${key}\``,
    kindWords(inner),
    otherwise,
    when.length === asked.length ? when.join(" or ") : "",
    says,
  ];
  return `| ${cells.map((cell) => cell.replaceAll("|", "\\|").replaceAll("\n", " ")).join(" | ")} |`;
}

/** A schema without what says that it may be left out, with what it then is, and its own words. */
function unwrapped(schema: z.ZodType): { inner: z.ZodType; otherwise: string; described: string | undefined } {
  let inner = schema;
  let otherwise = "has to be there";
  let described: string | undefined;
  for (;;) {
    const def = inner.def as { type: string; innerType?: z.ZodType; defaultValue?: unknown };
    if (!def.innerType) break;
    described ??= inner.description;
    if (def.type === "default") otherwise = `\`${JSON.stringify(def.defaultValue)}\``;
    else if (def.type === "optional" && otherwise === "has to be there") otherwise = "not there";
    inner = def.innerType;
  }
  // What a number or a reference is in general stands in its kind already.
  if (!numberAskedBy(inner) && !referenceWords(inner)) described ??= inner.description;
  return { inner, otherwise, described };
}

function kindWords(schema: z.ZodType): string {
  const number = numberAskedBy(schema);
  if (number) {
    const { above, min, max } = number.limits;
    const least = above !== undefined ? ` above ${above}` : min !== undefined && min > -36_000 ? ` from ${min}` : "";
    const most = max !== undefined && max < 36_000 ? ` up to ${max}` : "";
    return `${{ length: "length", angle: "angle", count: "number" }[number.kind]}${least}${most}`;
  }
  const reference = referenceWords(schema);
  if (reference) return reference;
  const def = schema.def as {
    type: string;
    element?: z.ZodType;
    items?: z.ZodType[];
    valueType?: z.ZodType;
    innerType?: z.ZodType;
    options?: z.ZodType[];
    shape?: Record<string, z.ZodType>;
  };
  if (def.innerType) return kindWords(def.innerType);
  switch (def.type) {
    case "enum":
      return (schema as z.ZodEnum).options.map((option) => `\`${option}\``).join(", ");
    case "array":
      return `list of ${kindWords(def.element!)}`;
    case "tuple": {
      const kinds = [...new Set(def.items!.map(kindWords))];
      return `[${kinds.length === 1 ? `${def.items!.length} × ${kinds[0]}` : kinds.join(", ")}]`;
    }
    case "record":
      return `by name: ${kindWords(def.valueType!)}`;
    case "object":
      return `{ ${Object.keys(def.shape!)
        .map((key) => `\`${key}\``)
        .join(", ")} }`;
    case "union":
      return [...new Set(def.options!.map(kindWords))].join(" or ");
    case "boolean":
      return "`true`, `false`";
    case "literal":
      return (schema as z.ZodLiteral).values.size > 0
        ? [...(schema as z.ZodLiteral).values].map((v) => `\`${v}\``).join(", ")
        : "";
    case "string":
      return "text";
    default:
      return def.type;
  }
}

function referenceWords(schema: z.ZodType): string | null {
  const of =
    references.of(schema)?.of ??
    (partReferences.of(schema)?.of === "item" ? "item there" : partReferences.of(schema)?.of) ??
    fileReferences.of(schema)?.of;
  return of ? `${of} (id)`.replace(/(face|edge|corner) \(id\)/, "$1") : null;
}

function conditionWords(when: FieldCondition | FieldCondition[] | undefined): string {
  return (when ? [when].flat() : [])
    .map((condition) =>
      "is" in condition
        ? `\`${condition.key}\` is ${condition.is.map((v) => `\`${v}\``).join(" or ")}`
        : `${condition.any.map((key) => `\`${key}\``).join(" or ")} is not empty`,
    )
    .join(" and ");
}

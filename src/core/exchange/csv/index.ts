import Papa from "papaparse";
import { fail } from "../../errors";
import { inWords } from "../../issues";
import { PARAMETER_UNITS, type Parameter, type ParameterUnit, parameterSchema } from "../../params";

/** The columns of a parameter table; `value` is written for other programs to read and ignored on the way back. */
const COLUMNS = ["name", "formula", "unit", "value", "note"] as const;

/**
 * Writes parameters as CSV (RFC 4180: comma, CRLF, quotes doubled), with a header line.
 * @param presentValue a parameter's present value in its unit, or null when it has none.
 */
export function writeParameters(
  parameters: readonly Parameter[],
  presentValue: (parameter: Parameter) => number | null,
): string {
  const rows = parameters.map((parameter) => ({
    ...parameter,
    formula: String(parameter.formula),
    value: presentValue(parameter) ?? "",
  }));
  return `${Papa.unparse({ fields: [...COLUMNS], data: rows.map((row) => COLUMNS.map((column) => row[column])) })}\r\n`;
}

/**
 * Reads parameters from CSV. The header names the columns, in any order; `name` and one of `formula` and `value` are
 * needed. Semicolons and tabs as separators are understood too.
 * @throws SeamError that names the line and what to do.
 */
export function readParameters(text: string): Parameter[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ""), {
    header: true,
    skipEmptyLines: "greedy",
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const columns = meta.fields ?? [];
  if (!columns.includes("name") || !(columns.includes("formula") || columns.includes("value")))
    fail(
      "csv-columns",
      "The first line has to name the columns: name, formula, unit, note. Add it, or export a table to see how.",
    );
  if (data.length === 0) fail("csv-empty", "The table holds no parameters under its first line.");
  if (data.length > 2000) fail("csv-long", `The table has ${data.length} lines; at most 2000 parameters can be read.`);
  const seen = new Set<string>();
  return data.map((row, i) => {
    const line = i + 2;
    const unit = (row.unit ?? "mm").trim().toLowerCase();
    if (!(PARAMETER_UNITS as readonly string[]).includes(unit))
      fail("csv-unit", `Line ${line}: the unit “${unit}” is none of mm, in, deg or empty. Correct it.`);
    const written = (row.formula?.trim() || row.value?.trim()) ?? "";
    const number = Number(written);
    const given = {
      name: (row.name ?? "").trim(),
      unit: unit as ParameterUnit,
      formula: written !== "" && Number.isFinite(number) ? number : written,
      note: (row.note ?? "").trim(),
    };
    const result = parameterSchema.safeParse(given);
    if (!result.success) {
      const issue = result.error.issues[0]!;
      fail("csv-line", `Line ${line}: ${issue.path.join(".")} ${inWords(issue, given)}. Correct it.`);
    }
    if (written === "")
      fail("csv-line", `Line ${line}: “${result.data.name}” has no formula. Give it a number or a formula.`);
    if (seen.has(result.data.name))
      fail("csv-twice", `Line ${line}: “${result.data.name}” stands there twice. Take one out.`);
    seen.add(result.data.name);
    return result.data;
  });
}

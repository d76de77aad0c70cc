import Papa from "papaparse";

/** A table as a CSV file, for other programs: with its columns named, and nothing that a spreadsheet would take for a formula. */
export const csvFile = (fields: string[], data: (string | number)[][]): Uint8Array =>
  new TextEncoder().encode(`${Papa.unparse({ fields, data }, { escapeFormulae: true })}\r\n`);

import { fail } from "../../errors";
import { isWellFormed } from "./grammar";

/**
 * The clear text encoding of the exchange structure, ISO 10303-21: as much of it as names and units need.
 * The geometry itself is read by the kernel.
 */
export interface Part21Record {
  /** The number behind `#`. */
  id: number;
  /** Entity names: one for a simple record, several for a complex one. */
  types: string[];
  /** The text between the outer brackets, for a complex record all of it. */
  body: string;
  /** Where it stands in the file's text, without the semicolon. */
  from: number;
  to: number;
}

const START = /^\uFEFF?\s*(?:\/\*[\s\S]*?\*\/\s*)*ISO-10303-21\s*;/;

/** How much of the start and end is looked at before anything is read: enough for comments and padding. */
const MARGIN = 4096;

/**
 * Checks that bytes are a whole exchange structure, without reading all of them.
 * @throws SeamError with one sentence on what the file is instead.
 */
export function checkPart21(bytes: Uint8Array, name: string): void {
  if (bytes.length === 0) fail("file-empty", `“${name}” is empty (0 bytes). Export it again.`);
  const head = decode(bytes.subarray(0, MARGIN));
  if (!START.test(head)) {
    if (/^\s*solid\b[\s\S]*\bfacet\b/i.test(head) || looksLikeBinaryStl(bytes))
      fail("file-is-stl", `“${name}” is an STL mesh, not a STEP file. Export the model as STEP.`);
    fail(
      "file-not-step",
      `“${name}” is not a STEP file: it does not begin with ISO-10303-21. Export the model as STEP (AP203, AP214 or AP242).`,
    );
  }
  const tail = decode(bytes.subarray(Math.max(0, bytes.length - MARGIN)));
  if (!/END-ISO-10303-21\s*;/.test(tail))
    fail("file-truncated", `“${name}” breaks off before its end. Copy or export it again.`);
}

function looksLikeBinaryStl(bytes: Uint8Array): boolean {
  if (bytes.length < 84) return false;
  const count = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(80, true);
  return count > 0 && bytes.length === 84 + 50 * count;
}

function decode(bytes: Uint8Array): string {
  return new TextDecoder("utf-8").decode(bytes);
}

/**
 * The text of a whole file. The standard knows ASCII, with other letters written in signs, and since its third edition UTF-8; some
 * programs write letters as Windows does all the same. What is no UTF-8 is taken as that, so that names keep their letters.
 */
export function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder("utf-8", { fatal: true, ignoreBOM: false }).decode(bytes);
  } catch {
    let text = "";
    for (let from = 0; from < bytes.length; from += CHUNK)
      text += String.fromCharCode(...bytes.subarray(from, from + CHUNK));
    // Decoders of that name are not the same in every host: some leave these as control signs.
    return text.replace(/[\u0080-\u009f]/g, (sign) => WINDOWS[sign.charCodeAt(0) - 0x80]!);
  }
}

/** What Windows writes as 80 to 9F, hexadecimal (WHATWG Encoding, index windows-1252); elsewhere it is ISO 8859-1. */
const WINDOWS = "€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ";
/** As many bytes as a call takes at once. */
const CHUNK = 8192;

/** A statement of the data sections that is no record, and where it stands in the file's text. */
export interface BrokenStatement {
  from: number;
  to: number;
  /** Counted from 1. */
  line: number;
}

/** All records of the data sections, in file order. Comments are left out; strings keep their encoding. */
export function parseRecords(bytes: Uint8Array): Part21Record[] {
  return parseData(bytes).records;
}

/** The records of the data sections, and the statements that are not written as records are. */
export function parseData(bytes: Uint8Array): { records: Part21Record[]; broken: BrokenStatement[] } {
  const text = textOf(bytes);
  const records: Part21Record[] = [];
  const broken: BrokenStatement[] = [];
  const data = /\bDATA\s*(?:\([^;]*\))?\s*;/g;
  const section = data.exec(text);
  if (!section) return { records, broken };
  const breakAt = (from: number, to: number) => {
    const start = from + text.slice(from, to).search(/\S|$/);
    broken.push({ from, to, line: text.slice(0, start).split("\n").length });
  };
  let at = data.lastIndex;
  while (at < text.length) {
    const end = statementEnd(text, at);
    if (end < 0) {
      if (/\S/.test(text.slice(at))) breakAt(at, text.length);
      break;
    }
    const statement = stripComments(text.slice(at, end)).trim();
    const place = { from: at, to: end };
    at = end + 1;
    const head = /^#(\d+)\s*=\s*/.exec(statement);
    if (/^(ENDSEC|DATA\s*(\(.*\))?|END-ISO-10303-21)$/s.test(statement)) {
      if (statement.startsWith("END-")) break;
      continue;
    }
    const rest = statement.slice(head?.[0].length ?? 0);
    if (!head || !isWellFormed(rest)) {
      breakAt(place.from, place.to);
      continue;
    }
    const simple = /^([A-Z_][A-Z0-9_]*)\s*\(([\s\S]*)\)$/i.exec(rest);
    if (simple) records.push({ id: Number(head[1]), types: [simple[1]!.toUpperCase()], body: simple[2]!, ...place });
    else {
      const types = [...withoutStrings(rest).matchAll(/([A-Z_][A-Z0-9_]*)\s*\(/gi)].map((match) =>
        match[1]!.toUpperCase(),
      );
      records.push({ id: Number(head[1]), types, body: rest, ...place });
    }
  }
  return { records, broken };
}

/** The place of the `;` that ends a statement, outside strings and comments; −1 when there is none. */
function statementEnd(text: string, from: number): number {
  for (let i = from; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 0x3b) return i;
    if (c === 0x27) {
      i = text.indexOf("'", i + 1);
      if (i < 0) return -1;
    } else if (c === 0x2f && text.charCodeAt(i + 1) === 0x2a) {
      i = text.indexOf("*/", i + 2);
      if (i < 0) return -1;
      i++;
    }
  }
  return -1;
}

function stripComments(text: string): string {
  return text.includes("/*")
    ? text.replace(/('(?:[^']|'')*')|\/\*[\s\S]*?\*\//g, (_all, string?: string) => string ?? "")
    : text;
}

function withoutStrings(text: string): string {
  return text.replace(/'(?:[^']|'')*'/g, "''");
}

/** The arguments of a simple record at its top level, as they stand in the file. */
export function splitArguments(body: string): string[] {
  const parts: string[] = [];
  let depth = 0;
  let start = 0;
  for (let i = 0; i < body.length; i++) {
    const c = body[i];
    if (c === "'") {
      i = body.indexOf("'", i + 1);
      if (i < 0) break;
    } else if (c === "(") depth++;
    else if (c === ")") depth--;
    else if (c === "," && depth === 0) {
      parts.push(body.slice(start, i).trim());
      start = i + 1;
    }
  }
  parts.push(body.slice(start).trim());
  return parts;
}

/** The records that an argument points to. */
export function pointers(argument: string): number[] {
  return [...withoutStrings(argument).matchAll(/#(\d+)/g)].map((match) => Number(match[1]));
}

/** A string argument as a person reads it; `$` and `*` are empty. */
export function readString(argument: string): string {
  const match = /^'([\s\S]*)'$/.exec(argument.trim());
  if (!match) return "";
  return match[1]!
    .replace(/[\r\n]/g, "")
    .replace(/''/g, "'")
    .replace(/\\X2\\((?:[0-9A-F]{4})+)\\X0\\/gi, (_all, hex: string) =>
      String.fromCharCode(...hex.match(/.{4}/g)!.map((unit) => Number.parseInt(unit, 16))),
    )
    .replace(/\\X4\\((?:[0-9A-F]{8})+)\\X0\\/gi, (_all, hex: string) =>
      String.fromCodePoint(...hex.match(/.{8}/g)!.map((unit) => Number.parseInt(unit, 16))),
    )
    .replace(/\\X\\([0-9A-F]{2})/gi, (_all, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))
    .replace(/\\S\\(.)/g, (_all, c: string) => String.fromCharCode(c.charCodeAt(0) + 128))
    .replace(/\\\\/g, "\\");
}

/** A string for a file: apostrophes doubled, letters beyond the basic alphabet as hexadecimal (ISO 10303-21, 6.4.3). */
export function writeString(text: string): string {
  const encoded = text
    .replace(/\\/g, "\\\\")
    .replace(/'/g, "''")
    .replace(/\p{Cc}/gu, " ")
    .replace(/[^\x20-\x7E]+/g, (run) => {
      let hex = "";
      for (let i = 0; i < run.length; i++) hex += run.charCodeAt(i).toString(16).toUpperCase().padStart(4, "0");
      return `\\X2\\${hex}\\X0\\`;
    });
  return `'${encoded}'`;
}

import { fail } from "../../errors";
import { has } from "../../items/kinds";
import { write3mf } from "./3mf/write";
import type { OutFormat, OutItem, OutWriter, WriteOptions } from "./declare";
import { writeCurvesDxf } from "./dxf/write";
import { outFormat, takes } from "./list";
import { writeObj } from "./obj/write";
import { writeStepFile } from "./step/write";
import { writeStl } from "./stl/write";

const WRITERS: Record<string, OutWriter> = {
  step: writeStepFile,
  "3mf": write3mf,
  stl: writeStl,
  obj: writeObj,
  dxf: writeCurvesDxf,
};

/** Writes those of some items that a format takes. @throws SeamError `format-unknown`, `nothing-to-write`, or the writer's own */
export function writeItems(id: string, items: readonly OutItem[], options: WriteOptions): Uint8Array {
  const format = outFormat(id);
  const write = WRITERS[id];
  if (!format || !write) fail("format-unknown", `“${id}” is no format that bodies are written in.`);
  const taken = items.filter(({ kind }) => takes(format, kind));
  if (taken.length === 0) fail("nothing-to-write", `There is nothing to write: ${whyNot(format, items)}`);
  return write(taken, options);
}

function whyNot({ label, takes: wanted }: OutFormat, items: readonly OutItem[]): string {
  const name = label.split(",")[0];
  if (items.length === 0) return "no body is picked.";
  if (wanted.includes("path")) return `${name} holds curves, and none is picked.`;
  return items.some((item) => has(item, "body"))
    ? `sheets have no inside, and ${name} asks for one.`
    : `${name} holds bodies, and curves have no faces.`;
}

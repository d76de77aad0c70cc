import { fail } from "../../errors";
import { write3mf } from "./3mf/write";
import type { BodyWriter, OutBody, WriteOptions } from "./declare";
import { bodyFormat, takes } from "./list";
import { writeObj } from "./obj/write";
import { writeStepFile } from "./step/write";
import { writeStl } from "./stl/write";

const WRITERS: Record<string, BodyWriter> = { step: writeStepFile, "3mf": write3mf, stl: writeStl, obj: writeObj };

/** Writes those of some bodies that a format takes. @throws SeamError `format-unknown`, `nothing-to-write`, or the writer's own */
export function writeBodies(id: string, bodies: readonly OutBody[], options: WriteOptions): Uint8Array {
  const format = bodyFormat(id);
  const write = WRITERS[id];
  if (!format || !write) fail("format-unknown", `“${id}” is no format that bodies are written in.`);
  const taken = bodies.filter(({ kind }) => takes(format, kind));
  if (taken.length === 0)
    fail(
      "nothing-to-write",
      bodies.length > 0
        ? `There is nothing to write: sheets have no inside, and ${format.label.split(",")[0]} asks for one.`
        : "There is nothing to write: no body is picked.",
    );
  return write(taken, options);
}

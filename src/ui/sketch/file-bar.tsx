"use client";
import { useRef, useState } from "react";
import { SeamError } from "@/core/errors";
import type { DrawingFile } from "@/core/exchange/drawings";
import { bringIn, curvesOf, type Sketch } from "@/core/sketch";
import { counted } from "@/core/words";
import { Button } from "../controls/controls";
import { download } from "../controls/download";
import { loaded } from "../controls/loaded";
import { useJob } from "../state/context";

/** A file larger than this is not read: it holds more than a sketch can take. */
const LARGEST = 20 * 1024 * 1024;

/** Readers and writers of drawings are large, and few who open a sketch use them. */
const drawings = () => loaded(() => import("@/core/exchange/drawings"));

/** Brings curves in from DXF and SVG, and saves the sketch as either. */
export function FileBar({
  sketch,
  onPut,
  onBrought,
  onTrouble,
}: {
  sketch: Sketch;
  onPut(sketch: Sketch): boolean;
  onBrought(sketch: Sketch): void;
  onTrouble(message: string | null): void;
}) {
  const unit = useJob((state) => state.job.units);
  const name = useJob((state) => state.job.name);
  const input = useRef<HTMLInputElement>(null);
  const [notes, setNotes] = useState<readonly string[]>([]);

  async function attempt(work: () => Promise<void>): Promise<void> {
    onTrouble(null);
    try {
      await work();
    } catch (cause) {
      if (!(cause instanceof SeamError)) throw cause;
      onTrouble(cause.message);
    }
  }

  const read = (file: File) =>
    attempt(async () => {
      setNotes([]);
      if (file.size > LARGEST)
        throw new SeamError({
          code: "too-large",
          message: `${file.name} is larger than 20 MB. Save only the outlines that you need.`,
        });
      const text = await file.text();
      const { readDxf, readSvg } = await drawings();
      const read: DrawingFile =
        /\.svg$/i.test(file.name) || /^\s*<(\?xml|svg|!--)/.test(text) ? readSvg(text) : readDxf(text, unit);
      const { sketch: next } = bringIn(sketch, read.curves);
      if (!onPut(next)) return;
      onBrought(next);
      setNotes([`${counted(read.curves.length, "curve")} brought in, in ${read.unit}.`, ...read.notes]);
    });

  const save = (ending: "dxf" | "svg") =>
    attempt(async () => {
      const { writeDxf, writeSvg } = await drawings();
      const [type, text] =
        ending === "dxf" ? ["image/vnd.dxf", writeDxf(sketch.entities)] : ["image/svg+xml", writeSvg(sketch.entities)];
      download(new TextEncoder().encode(text), `${name}.${ending}`, type);
    });
  const empty = curvesOf(sketch.entities, true).length === 0;
  return (
    <>
      <div className="flex flex-wrap items-center gap-1">
        <input
          ref={input}
          type="file"
          accept=".dxf,.svg"
          aria-label="DXF or SVG file"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = "";
            if (file) void read(file);
          }}
        />
        <Button small onClick={() => input.current?.click()}>
          Bring in DXF or SVG
        </Button>
        <Button small disabled={empty} onClick={() => save("dxf")}>
          Save as DXF
        </Button>
        <Button small disabled={empty} onClick={() => save("svg")}>
          Save as SVG
        </Button>
      </div>
      {notes.length > 0 ? (
        <ul aria-label="About the file" className="text-[0.8125rem] text-soft">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      ) : null}
    </>
  );
}

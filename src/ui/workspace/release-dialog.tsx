"use client";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { OUT_FORMATS, outFormat, takes } from "@/core/exchange/formats/list";
import { has } from "@/core/items/kinds";
import { parseLength } from "@/core/units";
import { counted } from "@/core/words";
import { Button, Choice } from "../controls/controls";
import { download } from "../controls/download";
import { ItemList } from "../forms/item-fields";
import { QuantityInput } from "../forms/quantity-input";
import { formatLength } from "../settings/format";
import { useJob, usePart, useStores, useWorkspace } from "../state/context";
import { lacksWords } from "../state/lacks";

/** Sends bodies out: exact, or as triangles within a tolerance that the file's user has to live with. */
export function ReleaseDialog() {
  const open = useWorkspace((state) => state.exporting);
  const set = useWorkspace((state) => state.set);
  return (
    <Dialog.Root open={open} onOpenChange={(exporting) => set({ exporting })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-[440px] -translate-x-1/2 -translate-y-1/2 rounded border border-ink bg-sheet p-5"
        >
          <Dialog.Title className="mb-3 text-[1.0625rem] font-semibold">Release bodies to a file</Dialog.Title>
          <ReleaseForm />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function ReleaseForm() {
  const { engines } = useStores();
  const job = useJob((state) => state.job);
  const part = usePart();
  const items = useWorkspace((state) => state.evaluation?.items ?? NONE);
  const set = useWorkspace((state) => state.set);
  const [id, setId] = useState(OUT_FORMATS[0]!.id);
  const format = outFormat(id)!;
  const [tolerance, setTolerance] = useState<string | number>(0.05);
  /** What was picked by hand; null where nobody has: solids then, or all that the format is for. */
  const [chosenIds, setChosenIds] = useState<string[] | null>(null);
  const [state, setState] = useState<{ kind: "ready" | "busy" | "done" | "failed"; message: string }>({
    kind: "ready",
    message: "",
  });
  const usable = items.filter((item) => takes(format, item.kind));
  const bodies = format.takes.some((trait) => trait !== "path");
  const picked = chosenIds ?? usable.filter((item) => !bodies || has(item, "closed")).map((item) => item.id);
  const chosen = usable.filter((item) => picked.includes(item.id)).map((item) => item.id);
  const lacking = usable.filter((item) => chosen.includes(item.id) && item.lacks.length > 0);
  useEffect(() => setState({ kind: "ready", message: "" }), [id, chosenIds, tolerance]);
  const parsed =
    typeof tolerance === "number" ? { ok: true as const, value: tolerance } : parseLength(tolerance, job.units);
  const toleranceProblem =
    !parsed.ok || parsed.value < 0.0005 || parsed.value > 10
      ? "Give a tolerance between 0.0005 mm and 10 mm."
      : undefined;

  async function write(): Promise<void> {
    setState({ kind: "busy", message: "Writing…" });
    try {
      const bytes = await engines().ask("release", {
        job,
        part: part.id,
        bodies: chosen,
        format: id,
        tolerance: parsed.ok ? parsed.value : 0.05,
      });
      const name = `${part.name.replace(/[^\p{L}\p{N} _-]+/gu, "").trim() || "part"}.${format.extension}`;
      download(bytes, name, format.mime);
      setState({
        kind: "done",
        message: `${name} is written: ${counted(chosen.length, "item")}, ${Math.ceil(bytes.length / 1024)} KB.`,
      });
    } catch (cause) {
      setState({ kind: "failed", message: cause instanceof Error ? cause.message : "The file could not be written." });
    }
  }

  return (
    <div className="flex flex-col gap-3">
      <Choice
        column
        label="As"
        value={id}
        options={OUT_FORMATS.map((one) => ({ value: one.id, label: one.label }))}
        onChange={setId}
      />
      {format.exact ? null : (
        <QuantityInput
          label="Largest deviation from the exact body"
          kind="length"
          unit={job.units}
          value={tolerance}
          problem={toleranceProblem}
          onChange={setTolerance}
        />
      )}
      <div>
        <div className="mb-1 text-[0.8125rem] text-soft">
          {format.takes.includes("path") ? (format.takes.includes("body") ? "Bodies and curves" : "Curves") : "Bodies"}{" "}
          <span className="num">({chosen.length})</span>
        </div>
        <ItemList
          items={usable}
          picked={chosen}
          onToggle={(id) =>
            setChosenIds(picked.includes(id) ? picked.filter((other) => other !== id) : [...picked, id])
          }
        />
      </div>
      <p className="text-[0.8125rem] text-soft">
        {[
          format.holds,
          ...(format.exact
            ? []
            : [
                `Approximate: within ${parsed.ok ? formatLength(parsed.value, job.units) : "the tolerance"} of the exact bodies.`,
              ]),
          ...(format.takes.includes("closed") ? ["Sheets have no inside and are left out."] : []),
        ].join(" ")}
      </p>
      {lacking.map((body) => (
        <p key={body.id} className="rounded bg-warn-wash px-1.5 py-0.5 text-[0.8125rem] text-warn">
          {body.name} {lacksWords(body, part)}.
        </p>
      ))}
      <p
        role="status"
        data-release={state.kind}
        className={`min-h-5 text-[0.8125rem] ${state.kind === "failed" ? "text-bad" : "text-soft"}`}
      >
        {state.message}
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={() => set({ exporting: false })}>Close</Button>
        <Button
          tone="main"
          disabled={chosen.length === 0 || state.kind === "busy" || (!format.exact && toleranceProblem !== undefined)}
          onClick={() => void write()}
        >
          Write the file
        </Button>
      </div>
    </div>
  );
}

const NONE: never[] = [];

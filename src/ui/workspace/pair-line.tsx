"use client";
import { useEffect, useState } from "react";
import type { Found, FoundPair } from "@/core/check";
import type { WantedFit } from "@/core/fit/audit";
import { wantFit } from "@/core/job";
import type { Quantity } from "@/core/params";
import { type BodyView, isBodyView } from "@/engine/contract";
import { Button, Choice } from "../controls/controls";
import { QuantityInput } from "../forms/quantity-input";
import { useJob, useWorkspace } from "../state/context";
import { sectionThrough } from "../state/section-through";

const WANTS: { value: WantedFit["want"] | "none"; label: string }[] = [
  { value: "none", label: "Nothing" },
  { value: "gap", label: "A gap" },
  { value: "touch", label: "Touch" },
  { value: "press", label: "A press" },
];

/** Two bodies of a line that is open: cut through where they are nearest, and what is wanted of them. */
export function PairLine({ line, pair }: { line: Found; pair: FoundPair }) {
  const set = useWorkspace((state) => state.set);
  const items = useWorkspace((state) => state.evaluation?.items);
  const fits = useJob((state) => state.job.fits);
  const edit = useJob((state) => state.edit);
  const wanted = pair.fit === null ? null : (fits[pair.fit] ?? null);
  const want = (next: Partial<WantedFit> | null) =>
    edit(next ? "Want a fit of two bodies" : "Want no fit of two bodies any more", (draft) =>
      wantFit(draft, pair, next),
    );
  const bodies = (items ?? []).filter(isBodyView);
  return (
    <div className="flex flex-col gap-2 rounded border border-line bg-sheet p-2 text-ink">
      <div className="flex gap-2">
        <Button small onClick={() => set({ section: sectionThrough(pair.at, wayOf(line, bodies), bodies) })}>
          Cut through here
        </Button>
      </div>
      <Choice<WantedFit["want"] | "none">
        small
        label="Wanted"
        value={wanted?.want ?? "none"}
        options={WANTS}
        onChange={(next) => want(next === "none" ? null : { want: next })}
      />
      {wanted && wanted.want !== "touch" ? (
        <div className="flex gap-2">
          <KeptLength label="At least" value={wanted.least} onKeep={(least) => want({ least })} />
          {wanted.want === "press" ? (
            <KeptLength label="At most" value={wanted.most} onKeep={(most) => want({ most })} />
          ) : null}
        </div>
      ) : null}
    </div>
  );
}

/** A length that joins the job when it is typed to its end, not with each key. */
function KeptLength({ label, value, onKeep }: { label: string; value: Quantity; onKeep(value: Quantity): void }) {
  const unit = useJob((state) => state.job.units);
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);
  const keep = () => {
    if (typed !== value) onKeep(typed);
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the box within is what is worked with.
    <div className="min-w-0 grow" onBlur={keep} onKeyDown={(event) => event.key === "Enter" && keep()}>
      <QuantityInput label={label} kind="length" unit={unit} value={typed} onChange={setTyped} />
    </div>
  );
}

/** The way that a face of the pair looks, or its axis: a cut along it shows the gap. */
function wayOf({ body, faces }: Found, bodies: readonly BodyView[]) {
  const face = bodies.find(({ id }) => id === body)?.faces[faces[0] ?? -1];
  return face?.direction ?? null;
}

"use client";
import { useEffect } from "react";
import { type Job, refreshLinks } from "@/core/job";
import type { LinkDifference } from "@/engine/contract";
import type { EngineHost } from "@/engine/host";
import { Button } from "../controls/controls";
import { formatLength, formatVolume } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import type { WorkspaceStoreApi } from "../state/workspace-store";

/** Holds what a step brought in against what is there now, and shows both. */
export async function compareLink(
  workspace: WorkspaceStoreApi,
  engines: EngineHost,
  job: Job,
  step: string,
): Promise<void> {
  const { part, set } = workspace.getState();
  set({ comparing: { step, differences: null, trouble: null }, checking: null, measuring: null, selected: null });
  const put = (found: { differences: LinkDifference[] | null; trouble: string | null }) => {
    const now = workspace.getState();
    if (now.comparing?.step === step && now.part === part) set({ comparing: { step, ...found } });
  };
  try {
    put({ differences: await engines.ask("compare", { job, part, step }), trouble: null });
  } catch (cause) {
    put({ differences: null, trouble: cause instanceof Error ? cause.message : String(cause) });
  }
}

/** What was brought in as it was taken and as it is now: what of it is larger, and how far both lie from each other at most. */
export function ComparePanel() {
  const comparing = useWorkspace((state) => state.comparing);
  const part = useWorkspace((state) => state.part);
  const set = useWorkspace((state) => state.set);
  const unit = useJob((state) => state.job.units);
  const edit = useJob((state) => state.edit);
  const steps = useJob((state) => state.job.parts.find(({ id }) => id === part)?.steps);
  const isThere = steps?.some(({ id }) => id === comparing?.step) === true;
  useEffect(() => {
    if (comparing && !isThere) set({ comparing: null });
  }, [comparing, isThere, set]);
  if (!comparing) return null;
  const { differences, trouble, step } = comparing;
  const refresh = () => {
    edit("Refresh what is brought in", (draft) =>
      refreshLinks(draft, (from, link) => from.id === part && link.id === step),
    );
    set({ comparing: null });
  };
  return (
    <section
      aria-label="Compare"
      data-covers="left"
      className="absolute bottom-9 left-2 z-10 flex max-h-[min(60%,30rem)] w-[23rem] flex-col rounded border border-line bg-sheet"
    >
      <div className="flex items-center justify-between border-b border-line px-3 py-1">
        <h2 className="font-semibold">As it was taken, and now</h2>
        <Button small tone="quiet" onClick={() => set({ comparing: null })}>
          Close
        </Button>
      </div>
      <div className="relative flex min-h-0 flex-col gap-2 overflow-auto px-3 py-2">
        {trouble ? (
          <p role="alert" className="text-bad">
            {trouble}
          </p>
        ) : differences ? (
          <>
            <p className="text-[0.8125rem] text-soft">
              In the view: seen through as it was taken, solid as it is now. Rings mark where they lie furthest apart.
            </p>
            <ul aria-label="What differs" className="flex flex-col gap-2">
              {differences.map((difference, i) => (
                <li key={`${difference.name} ${i}`}>
                  <p className="font-medium [overflow-wrap:anywhere]">{difference.name}</p>
                  <p className="num text-[0.8125rem]">{volumesOf(difference, unit)}</p>
                  <p className="num text-[0.8125rem]">{furthestOf(difference, unit)}</p>
                </li>
              ))}
            </ul>
            <div className="flex gap-2">
              <Button small tone="main" onClick={refresh}>
                Refresh
              </Button>
              <Button small onClick={() => set({ comparing: null })}>
                Leave it as it was
              </Button>
            </div>
          </>
        ) : (
          <p className="text-soft">Building it as it was, and as it is now…</p>
        )}
      </div>
    </section>
  );
}

function volumesOf({ was, now }: LinkDifference, unit: "mm" | "inch"): string {
  if (!was) return "New: it was not there when it was taken.";
  if (!now) return "Not there any more.";
  if (was.volume === null || now.volume === null) return `A ${now.kind}, without a volume.`;
  const more = now.volume - was.volume;
  const change = more === 0 ? "the same" : `${formatVolume(Math.abs(more), unit)} ${more > 0 ? "more" : "less"}`;
  return `${formatVolume(was.volume, unit)} → ${formatVolume(now.volume, unit)}: ${change}`;
}

function furthestOf({ furthest, was, now }: LinkDifference, unit: "mm" | "inch"): string {
  if (!was || !now) return "";
  if (!furthest) return "How far apart both lie is measured of bodies alone.";
  if (furthest.distance < 1e-9) return "Nowhere apart.";
  return `Up to ${formatLength(furthest.distance, unit)} apart, at ${furthest.places} places measured.`;
}

"use client";
import { useEffect, useRef } from "react";
import { needingPart, standsOf } from "@/core/job";
import { counted } from "@/core/words";
import { Button } from "../controls/controls";
import { useSettings } from "../settings/settings";
import { useJob, useWorkspace } from "../state/context";
import { LEAVE_WHOLE, standKey, standOf } from "../state/others";
import type { ViewScene } from "../viewport/scene";
import { PutPanel } from "./put-panel";
import { SheetEdge } from "./sheet-edge";
import { StandRow } from "./stand-row";

/** The parts of the job where they stand, while the whole of it is looked at. */
export function PlacesSheet({ scene }: { scene: ViewScene | null }) {
  const job = useJob((state) => state.job);
  const part = useWorkspace((state) => state.part);
  const others = useWorkspace((state) => state.others);
  const selected = useWorkspace((state) => state.selected);
  const putting = useWorkspace((state) => state.putting);
  const set = useWorkspace((state) => state.set);
  const width = useSettings((state) => state.sheetWidth);
  const waiting = job.parts.filter(({ id }) => id !== part && !others.has(id)).length;
  const seen = useRef(false);
  // All of it is to be seen, once it is there.
  useEffect(() => {
    if (waiting > 0 || seen.current || !scene) return;
    seen.current = true;
    scene.fit();
  }, [waiting, scene]);
  const chosen = standOf(selected);
  return (
    <aside
      aria-label="Parts in place"
      style={{ width }}
      className="relative flex max-w-[50vw] min-h-0 flex-col border-l border-line bg-sheet"
    >
      <SheetEdge />
      <div className="flex h-9 shrink-0 items-center justify-between border-b border-line px-3">
        <h2 className="font-semibold">Parts in place</h2>
        <span className="flex items-center gap-2 text-[0.8125rem] text-soft">
          {waiting > 0 ? `Building ${waiting} more…` : counted(job.parts.length, "part")}
          <Button small tone="quiet" onClick={() => set(LEAVE_WHOLE)}>
            Back to the part
          </Button>
        </span>
      </div>
      {putting ? <PutPanel putting={putting} /> : null}
      <ul className="relative min-h-0 grow overflow-auto">
        {job.parts.flatMap((one) =>
          standsOf(one).map((stand) => (
            <StandRow
              key={standKey({ part: one.id, at: stand.at })}
              part={one}
              stand={stand}
              isChosen={chosen?.part === one.id && chosen.at === stand.at}
              usedBy={stand.at === "" ? [...new Set(needingPart(job, one.id).map(({ part: by }) => by.name))] : []}
            />
          )),
        )}
      </ul>
    </aside>
  );
}

"use client";
import { useEffect, useRef, useState } from "react";
import { Button } from "../controls/controls";
import { settings, useSettings } from "../settings/settings";
import { useJob, useStores, useWorkspace } from "../state/context";
import { useActions } from "../workspace/actions";
import { WALK } from "./walk-steps";

/** The job that the walk goes through. */
const DEMO = "Star Pier";

/** The walk through the demo: offered there to who has not been on it, begun anywhere by its command; left at any time. */
export function Walk() {
  const at = useWorkspace((state) => state.walk);
  const set = useWorkspace((state) => state.set);
  const demo = useJob((state) => state.job.name === DEMO);
  const walked = useSettings((state) => state.walked);
  const change = useSettings((state) => state.change);
  const idle = useWorkspace((state) => state.editing === null && state.selected === null && state.dialog === null);
  // Not before the browser has told what is kept in it.
  const [ready, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  const leave = () => {
    set({ walk: null });
    change({ walked: true });
  };
  if (at !== null) return <Card at={at} go={(walk) => set({ walk })} leave={leave} />;
  if (!ready || !demo || walked || !idle) return null;
  return (
    <aside
      aria-label="New here?"
      className="absolute top-2 left-2 z-[5] flex max-w-[26rem] items-center gap-3 rounded border border-rule bg-sheet px-3 py-2 shadow"
    >
      <p className="grow text-[0.8125rem]">New here? A walk through this job in {WALK.length} stops.</p>
      <Button small tone="main" onClick={() => set({ walk: 0 })}>
        Begin
      </Button>
      <Button small tone="quiet" onClick={leave}>
        No, thanks
      </Button>
    </aside>
  );
}

function Card({ at, go, leave }: { at: number; go(at: number): void; leave(): void }) {
  const { workspace, job } = useStores();
  const actions = useActions();
  const next = useRef<HTMLButtonElement>(null);
  const stop = WALK[at]!;
  const last = at === WALK.length - 1;
  useEffect(() => {
    stop.show?.({ workspace, job: job.store.getState().job, open: actions.open, leave: actions.leave });
    next.current?.focus();
  }, [stop, workspace, job, actions]);
  return (
    <>
      <Frame selector={stop.at} />
      <section
        aria-label="Walk through the demo"
        className="fixed bottom-44 left-1/2 z-30 w-[min(30rem,90vw)] -translate-x-1/2 rounded border-2 border-pick bg-sheet px-4 py-3 shadow-xl"
      >
        <h2 className="font-semibold">
          <span className="num mr-2 font-normal text-soft">
            {at + 1} of {WALK.length}
          </span>
          {stop.title}
        </h2>
        <p aria-live="polite" className="my-2">
          {stop.text}
        </p>
        <div className="flex items-center gap-2">
          <button
            ref={next}
            type="button"
            className="h-7 rounded border border-signal bg-signal px-3 font-medium text-signal-ink hover:brightness-110"
            onClick={() => (last ? leave() : go(at + 1))}
          >
            {last ? "Done" : "Next"}
          </button>
          {at > 0 ? (
            <Button small onClick={() => go(at - 1)}>
              Back
            </Button>
          ) : null}
          <span className="grow" />
          {last ? null : (
            <Button small tone="quiet" onClick={leave}>
              Leave the walk
            </Button>
          )}
        </div>
      </section>
    </>
  );
}

/** A frame round what is told of; it follows when that moves. */
function Frame({ selector }: { selector: string }) {
  const [box, setBox] = useState<DOMRect | null>(null);
  useEffect(() => {
    const look = () => setBox(document.querySelector(selector)?.getBoundingClientRect() ?? null);
    look();
    const timer = setInterval(look, 250);
    return () => clearInterval(timer);
  }, [selector]);
  if (!box) return null;
  return (
    <div
      aria-hidden
      className="pointer-events-none fixed z-20 rounded border-[3px] border-pick"
      style={{ left: box.left, top: box.top, width: box.width, height: box.height }}
    />
  );
}

/** Begins the walk anew. */
export const beginWalk = (set: (values: { walk: number }) => void): void => {
  settings.getState().change({ walked: false });
  set({ walk: 0 });
};

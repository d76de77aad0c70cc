"use client";
import { Pause, Play } from "lucide-react";
import { useEffect, useState } from "react";
import { useShallow } from "zustand/react/shallow";
import type { Contact } from "@/core/triangles";
import { IconButton, Range } from "../controls/controls";
import { Mark } from "../marks/marks";
import { formatLength } from "../settings/format";
import { useJob, useStores, useWorkspace } from "../state/context";
import { contactsOf, isAllAlong, touchedNow } from "../state/playing";
import { useContacts } from "../state/use-contacts";

/** Seconds for all of the way. */
const WHOLE = 4;

/** Plays the way: the body is drawn where it is at that point of it, and what it is in there lights up. */
export function Player() {
  const { workspace } = useStores();
  const playing = useWorkspace((state) => state.playing);
  const set = useWorkspace((state) => state.set);
  const [runs, setRuns] = useState(false);
  useEffect(() => {
    if (!runs) return;
    let before = performance.now();
    let frame = requestAnimationFrame(function next(now) {
      const { playing: at, set: put } = workspace.getState();
      put({ playing: ((at ?? 0) + (now - before) / 1000 / WHOLE) % 1 });
      before = now;
      frame = requestAnimationFrame(next);
    });
    return () => cancelAnimationFrame(frame);
  }, [runs, workspace]);
  // It is of this form alone.
  useEffect(() => () => set({ playing: null, contacts: null }), [set]);
  useContacts();
  return (
    <fieldset aria-label="On its way" className="min-w-0">
      <legend className="mb-1 text-[0.8125rem] text-soft">On its way</legend>
      <div className="flex items-center gap-2">
        <IconButton
          label={runs ? "Stop playing the moves" : "Play the moves"}
          aria-pressed={runs}
          className="size-7!"
          onClick={() => setRuns(!runs)}
        >
          {runs ? <Pause size={15} aria-hidden /> : <Play size={15} aria-hidden />}
        </IconButton>
        <Range
          label="How far on its way"
          value={playing ?? 0}
          onChange={(value) => {
            setRuns(false);
            set({ playing: value });
          }}
          className="grow"
        />
        <span className="num w-11 text-right text-[0.8125rem] text-soft">{Math.round(100 * (playing ?? 0))} %</span>
      </div>
      {playing === null ? null : (
        <Touched
          onGo={(at) => {
            setRuns(false);
            set({ playing: at });
          }}
        />
      )}
    </fieldset>
  );
}

const percent = (share: number) => Math.round(100 * share);

/** What the body is in on its way: from where to where. A press goes there. */
function Touched({ onGo }: { onGo(share: number): void }) {
  const contacts = useWorkspace(contactsOf);
  const items = useWorkspace((state) => state.evaluation?.items);
  const touched = useWorkspace(useShallow(touchedNow));
  const unit = useJob((state) => state.job.units);
  if (!contacts) return <p className="mt-1 text-[0.8125rem] text-soft">Looking for what it touches…</p>;
  const { found } = contacts;
  if (!found) return <p className="mt-1 text-[0.8125rem] text-warn">What it touches cannot be told here.</p>;
  const nameOf = ({ id }: Contact) => items?.find((item) => item.id === id)?.name ?? id;
  const along = found.contacts.filter(isAllAlong).map(nameOf);
  const met = found.contacts.filter((contact) => !isAllAlong(contact));
  return (
    <>
      {met.length === 0 ? (
        <p role="status" className="mt-1 text-[0.8125rem] text-soft">
          It goes into nothing on its way, in 48 places of each move. By triangles: what is not much thicker than{" "}
          {formatLength(found.within, unit)} may be missed.
        </p>
      ) : null}
      {along.length > 0 ? (
        <p className="mt-1 text-[0.8125rem] text-soft [overflow-wrap:anywhere]">
          All along it is in {along.join(", ")}.
        </p>
      ) : null}
      <ul
        hidden={met.length === 0}
        aria-label="Touched on the way"
        className="relative mt-1 max-h-40 overflow-auto text-[0.8125rem]"
      >
        {met.map((contact) => {
          const isNow = touched.includes(contact);
          return (
            <li key={`${contact.id} ${contact.from}`}>
              <button
                type="button"
                aria-current={isNow}
                onClick={() => onGo(contact.from)}
                className={`flex w-full items-start gap-1.5 rounded px-1 py-0.5 text-left hover:bg-pick-wash ${isNow ? "font-medium text-bad" : ""}`}
              >
                <Mark name={isNow ? "failed" : "warned"} />
                <span className="min-w-0 [overflow-wrap:anywhere]">
                  Into {nameOf(contact)},{" "}
                  <span className="num">
                    {percent(contact.from)} to {percent(contact.to)} %
                  </span>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}

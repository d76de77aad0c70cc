"use client";
import { Link2 } from "lucide-react";
import { Popover } from "radix-ui";
import type { LinkReport } from "@/core/evaluate";
import { linkOf, refreshLinks } from "@/core/job";
import { counted } from "@/core/words";
import { Button, Toggle } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useJob, useWorkspace } from "../state/context";
import { isBehind } from "../state/links";
import { LEAVE_WHOLE } from "../state/others";
import { stepTitle } from "../state/step-title";
import { useLinks } from "../state/use-links";

/** How all that parts bring in from each other stands, for the whole job: a press lists it. */
export function LinkMark() {
  useLinks();
  const job = useJob((state) => state.job);
  const links = useWorkspace((state) => state.links);
  const isOpen = useWorkspace((state) => state.editing !== null);
  if (!job.parts.some(({ steps }) => steps.some((step) => linkOf(step)))) return null;
  const behind = (links ?? []).filter(isBehind).length;
  const words =
    links === null
      ? "Links: not known"
      : behind > 0
        ? `${counted(behind, "link")} behind`
        : `${counted(links.length, "link")}, none behind`;
  return (
    <Popover.Root>
      <span role="status" className="sr-only">
        {words}
      </span>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={words}
          title={words}
          disabled={isOpen}
          className={`inline-flex h-8 shrink-0 items-center gap-1.5 rounded border px-2 text-[0.8125rem] disabled:opacity-60 ${behind > 0 ? "border-warn text-warn" : "border-line"}`}
        >
          {behind > 0 ? <Mark name="warned" /> : <Link2 size={15} aria-hidden />}
          <span className="num">{links === null ? "…" : behind > 0 ? `${behind} behind` : links.length}</span>
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          collisionPadding={8}
          aria-label="Links between parts"
          className="z-50 flex max-h-[70vh] w-[26rem] max-w-[90vw] flex-col gap-2 rounded border border-line bg-sheet p-3 shadow-lg"
        >
          <Links links={links ?? []} behind={behind} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Links({ links, behind }: { links: LinkReport[]; behind: number }) {
  const job = useJob((state) => state.job);
  const edit = useJob((state) => state.edit);
  const current = useWorkspace((state) => state.part);
  const set = useWorkspace((state) => state.set);
  const inThis = links.filter((link) => isBehind(link) && link.part === current).length;
  const refresh = (words: string, wanted: Parameters<typeof refreshLinks>[1]) =>
    edit(words, (draft) => refreshLinks(draft, wanted));
  return (
    <>
      <Toggle
        label="What is brought in follows at once"
        value={job.follow}
        onChange={(follow) =>
          edit(follow ? "Let links follow at once" : "Let links wait to be refreshed", (draft) => {
            draft.follow = follow;
          })
        }
      />
      <div className="flex gap-2">
        <Button small disabled={behind === 0} onClick={() => refresh("Refresh all links", () => true)}>
          Refresh all
        </Button>
        <Button
          small
          disabled={inThis === 0}
          onClick={() => refresh("Refresh the links of the part", ({ id }) => id === current)}
        >
          Refresh this part
        </Button>
      </div>
      <ul
        aria-label="Links"
        className="relative flex min-h-0 flex-col divide-y divide-line overflow-auto border-y border-line"
      >
        {links.map((link) => {
          const part = job.parts.find(({ id }) => id === link.part);
          const step = part?.steps.find(({ id }) => id === link.step);
          if (!part || !step) return null;
          return (
            <li key={`${link.part} ${link.step}`} className="flex items-start gap-2 py-1.5">
              <span className={`mt-0.5 ${isBehind(link) ? "text-warn" : "text-good"}`}>
                <Mark name={isBehind(link) ? "warned" : "good"} />
              </span>
              <div className="min-w-0 grow">
                <p className="[overflow-wrap:anywhere]">
                  <span className="font-medium">{part.name}</span> uses “{link.fromName}”: step{" "}
                  <span className="num">{part.steps.indexOf(step) + 1}</span>, {stepTitle(step)}
                </p>
                <p className="text-[0.8125rem] text-soft [overflow-wrap:anywhere]">{link.words}</p>
              </div>
              {part.id !== current ? (
                <Popover.Close asChild>
                  <Button
                    small
                    onClick={() =>
                      set({ ...LEAVE_WHOLE, part: part.id, evaluation: null, alone: null, comparing: null })
                    }
                  >
                    Go there
                  </Button>
                </Popover.Close>
              ) : null}
              {link.state === "stale" ? (
                <Button
                  small
                  onClick={() =>
                    refresh(
                      `Refresh what is brought in from ${link.fromName}`,
                      ({ id }, one) => id === link.part && one.id === link.step,
                    )
                  }
                >
                  Refresh
                </Button>
              ) : null}
            </li>
          );
        })}
      </ul>
    </>
  );
}

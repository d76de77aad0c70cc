"use client";
import { linkOf, refreshLinks, type Step } from "@/core/job";
import { Button } from "../controls/controls";
import { useJob, useStores, useWorkspace } from "../state/context";
import { isBehind } from "../state/links";
import { compareLink } from "./compare-panel";

/** Of a step that brings something in: from where, how it stands to that, and what can be done about it. */
export function LinkLine({ step, locked }: { step: Step; locked: boolean }) {
  const { workspace, engines } = useStores();
  const link = linkOf(step)!;
  const job = useJob((state) => state.job);
  const edit = useJob((state) => state.edit);
  const part = useWorkspace((state) => state.part);
  const report = useWorkspace((state) => state.links?.find((one) => one.part === part && one.step === step.id));
  const source = job.parts.find(({ id }) => id === link.part);
  const kept = link.taken ? job.kept[link.taken.as]?.parts[0] : undefined;
  const name = source?.name ?? kept?.name;
  if (!name) return null;
  const behind = report ? isBehind(report) : false;
  return (
    <div data-link={report?.state ?? "unknown"} className="text-[0.8125rem]">
      <p className={behind ? "text-warn" : "text-soft"}>
        {behind ? report!.words : link.loose ? `A copy of its own, of “${name}”` : `From “${name}”`}
      </p>
      {behind && !locked ? (
        <div className="mt-1 flex gap-1.5">
          {report!.state === "stale" ? (
            <>
              <Button small onClick={() => void compareLink(workspace, engines(), job, step.id)}>
                Compare
              </Button>
              <Button
                small
                onClick={() =>
                  edit(`Refresh what is brought in from ${name}`, (draft) =>
                    refreshLinks(draft, (from, one) => from.id === part && one.id === step.id),
                  )
                }
              >
                Refresh
              </Button>
            </>
          ) : null}
          <Button
            small
            onClick={() =>
              edit(`Cut the link to ${name}`, (draft) => {
                const own = draft.parts.find(({ id }) => id === part)?.steps.find(({ id }) => id === step.id);
                if (own) own.loose = true;
              })
            }
          >
            Cut the link
          </Button>
        </div>
      ) : null}
    </div>
  );
}

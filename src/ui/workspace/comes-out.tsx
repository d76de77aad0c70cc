"use client";
import { Popover } from "radix-ui";
import { useMemo } from "react";
import { counted } from "@/core/words";
import { Mark } from "../marks/marks";
import { formatArea, formatVolume } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import { outcomeOf } from "../state/outcome";

/** What the open step will leave on the bench, said before it is kept: which bodies, which are as before, what is used up. */
export function ComesOut() {
  const step = useWorkspace((state) => state.editing?.step.id);
  const evaluation = useWorkspace((state) => state.evaluation);
  const unit = useJob((state) => state.job.units);
  const { bodies, gone } = useMemo(
    () =>
      outcomeOf(
        evaluation?.steps.find(({ id }) => id === step),
        evaluation?.before ?? [],
        evaluation?.items ?? [],
      ),
    [evaluation, step],
  );
  if (bodies.length === 0) return null;
  const same = bodies.filter(({ is }) => is.length > 0).length;
  const fresh = bodies.length - same;
  return (
    <Popover.Root>
      <Popover.Trigger className="rounded border border-transparent px-1 text-[0.8125rem] underline decoration-dotted underline-offset-2 hover:border-line">
        Comes out: {counted(bodies.length, "body", "bodies")}
        {same > 0 && fresh > 0 ? `, ${fresh} new` : same > 0 ? "" : ", all new"}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={6}
          aria-label="What comes out"
          className="z-40 flex max-h-[50dvh] w-80 flex-col gap-2 overflow-auto rounded border border-rule bg-sheet p-3 text-[0.8125rem] shadow-lg"
        >
          <ul className="flex flex-col gap-1.5">
            {bodies.map(({ body, is }) => (
              <li key={body.id} className="flex items-start gap-2">
                <Mark name={body.kind === "sheet" ? "sheet" : "solid"} width={15} height={15} />
                <span className="min-w-0 grow">
                  <span className="font-medium wrap-anywhere">{body.name}</span>
                  <span className="block text-soft">
                    {is.length === 0
                      ? "a new body"
                      : is.length === 1 && is[0] === body.name
                        ? "as before: keeps its name, look and notes"
                        : `is what ${is.join(" and ")} ${is.length === 1 ? "was" : "were"}: keeps its look and notes`}
                  </span>
                </span>
                <span className="num shrink-0">
                  {body.measures.volume !== null
                    ? formatVolume(body.measures.volume, unit)
                    : formatArea(body.measures.area, unit)}
                </span>
              </li>
            ))}
          </ul>
          {gone.length > 0 ? (
            <p className="border-t border-line pt-2 text-soft wrap-anywhere">Used up: {gone.join(", ")}</p>
          ) : null}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

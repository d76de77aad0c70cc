"use client";
import { Trash2 } from "lucide-react";
import { AlertDialog } from "radix-ui";
import { needingPart, removePart } from "@/core/job";
import { Button, IconButton } from "../controls/controls";
import { useJob, usePart } from "../state/context";
import { stepTitle } from "../state/step-title";

/** Deletes the part on the sheet, after it was asked: with what other parts bring in from it. */
export function DeletePart({ onDone }: { onDone(next: string): void }) {
  const job = useJob((state) => state.job);
  const edit = useJob((state) => state.edit);
  const part = usePart();
  const needing = needingPart(job, part.id);
  const at = job.parts.findIndex(({ id }) => id === part.id);
  const next = job.parts[at - 1] ?? job.parts[at + 1];
  const remove = () => {
    if (!next) return;
    edit(`Delete the part ${part.name}`, (draft) => removePart(draft, part.id));
    onDone(next.id);
  };
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>
        <IconButton label="Delete the part" className="size-7!" disabled={!next}>
          <Trash2 size={14} aria-hidden />
        </IconButton>
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <AlertDialog.Content className="fixed top-1/4 left-1/2 z-50 w-[26rem] max-w-[90vw] -translate-x-1/2 rounded border border-line bg-sheet p-4 shadow-lg">
          <AlertDialog.Title className="text-[1.0625rem] font-semibold [overflow-wrap:anywhere]">
            Delete the part {part.name}?
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-soft">
            {needing.length > 0
              ? "Other parts bring something in from it. What these steps took stays as it was:"
              : `Its ${part.steps.length === 1 ? "one step goes" : `${part.steps.length} steps go`} with it. Undo brings it back.`}
          </AlertDialog.Description>
          {needing.length > 0 ? (
            <ul className="relative my-2 max-h-48 overflow-auto rounded border border-line px-2 py-1">
              {needing.map(({ part: other, step }) => (
                <li key={`${other.id} ${step.id}`} className="truncate py-0.5">
                  {other.name}: step <span className="num">{other.steps.indexOf(step) + 1}</span>, {stepTitle(step)}
                </li>
              ))}
            </ul>
          ) : null}
          <div className="mt-3 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button tone={needing.length > 0 ? "main" : "plain"}>Keep it</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button tone={needing.length > 0 ? "plain" : "main"} onClick={remove}>
                {needing.length > 0 ? "Delete it all the same" : "Delete it"}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

"use client";
import { AlertDialog } from "radix-ui";
import { useMemo } from "react";
import { dependants } from "@/core/evaluate/dependants";
import type { Step } from "@/core/job";
import { Button } from "../controls/controls";
import { useJob, useWorkspace } from "../state/context";
import { stepTitle } from "../state/step-title";
import { useActions } from "./actions";

/** The steps of the open part that need what a step makes. */
export function useNeeding(id: string): Step[] {
  const job = useJob((state) => state.job);
  const part = useWorkspace((state) => state.part);
  const reports = useWorkspace((state) => state.evaluation?.steps);
  return useMemo(() => {
    const open = job.parts.find((candidate) => candidate.id === part) ?? job.parts[0]!;
    return dependants(open.steps, reports ?? [], id);
  }, [job, part, reports, id]);
}

/** What needs a step; when it is to be deleted, with the choice of what becomes of them. */
export function NeedingDialog({
  step,
  title,
  deleting,
  onClose,
}: {
  step: Step;
  title: string;
  deleting: boolean;
  onClose(): void;
}) {
  const needing = useNeeding(step.id);
  const steps = useJob((state) => state.job.parts);
  const part = useWorkspace((state) => state.part);
  const actions = useActions();
  const order = (steps.find((candidate) => candidate.id === part) ?? steps[0]!).steps;
  const numbered = (one: Step) => `${order.findIndex(({ id }) => id === one.id) + 1}  ${stepTitle(one)}`;
  const done = (act: () => void) => {
    act();
    onClose();
  };
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <AlertDialog.Content className="fixed top-1/4 left-1/2 z-50 w-[26rem] max-w-[90vw] -translate-x-1/2 rounded border border-line bg-sheet p-4 shadow-lg">
          <AlertDialog.Title className="text-[1.0625rem] font-semibold">
            {deleting ? `Delete ${title}?` : `What needs ${title}`}
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-soft">
            {needing.length === 1 ? "One step needs" : `${needing.length} steps need`} what it makes:
          </AlertDialog.Description>
          <ul className="my-2 max-h-48 relative overflow-auto rounded border border-line px-2 py-1">
            {needing.map((one) => (
              <li key={one.id} className="num py-0.5">
                {numbered(one)}
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button tone={deleting ? "plain" : "main"}>{deleting ? "Keep it" : "Close"}</Button>
            </AlertDialog.Cancel>
            {deleting ? (
              <>
                <Button onClick={() => done(() => actions.remove(step))}>Delete it alone</Button>
                <Button tone="main" onClick={() => done(() => actions.removeAll(step, needing))}>
                  Delete all {needing.length + 1}
                </Button>
              </>
            ) : null}
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

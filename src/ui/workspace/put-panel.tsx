"use client";
import { placeEdits, standing } from "@/core/job";
import { Button, Choice, Toggle } from "../controls/controls";
import { useJob, useWorkspace } from "../state/context";
import { type Putting, putTransform } from "../state/putting";

/** A part that is put by two faces, picked in the view: flat on flat, or axis on axis. */
export function PutPanel({ putting }: { putting: Putting }) {
  const job = useJob((state) => state.job);
  const edit = useJob((state) => state.edit);
  const set = useWorkspace((state) => state.set);
  const part = job.parts.find(({ id }) => id === putting.part);
  const stands = part ? standing(job, part, putting.at) : null;
  if (!part || !stands) return null;
  const to = "transform" in stands ? putTransform(putting, stands.transform) : null;
  const round = putting.mine?.facts.kind === "cylinder";
  return (
    <section aria-label="Put by faces" className="flex flex-col gap-2 border-b-2 border-ink bg-paper px-3 py-2">
      <p aria-live="polite">
        {putting.trouble ??
          (!putting.mine
            ? `Click a flat or round face of “${part.name}” in the view.`
            : !putting.onto
              ? "Click the face of another part that it goes to."
              : "This is where it would stand.")}
      </p>
      <Choice
        label={round ? "Axes look" : "Faces look"}
        value={putting.how}
        options={[
          { value: "facing", label: round ? "As they lie nearest" : "At each other" },
          { value: "flush", label: round ? "Turned round" : "The same way" },
        ]}
        onChange={(how) => set({ putting: { ...putting, how } })}
      />
      <Toggle
        label="Middle on middle"
        value={putting.middle}
        onChange={(middle) => set({ putting: { ...putting, middle } })}
      />
      <div className="flex gap-2">
        <Button
          small
          tone="main"
          disabled={!to}
          onClick={() => {
            if (!to) return;
            edit(`Put ${part.name} by its faces`, (draft) => placeEdits.putAt(draft, putting.part, putting.at, to));
            set({ putting: null });
          }}
        >
          Put it there
        </Button>
        <Button small onClick={() => set({ putting: null })}>
          Leave it
        </Button>
      </div>
    </section>
  );
}

"use client";
import { Button } from "../controls/controls";
import { Mark } from "../marks/marks";
import { usePart, useWorkspace } from "../state/context";
import { useActions } from "./actions";

/**
 * What steps had picked and was found again by its looks alone: one place to see how many there are, to look at each, and
 * to keep all that were found.
 */
export function ReferencesBand() {
  const reports = useWorkspace((state) => state.evaluation?.steps);
  const editing = useWorkspace((state) => state.editing);
  const set = useWorkspace((state) => state.set);
  const part = usePart();
  const { keepFound, open } = useActions();
  const guessed = reports?.flatMap(({ warnings }) => warnings.filter(({ code }) => code.endsWith("-guessed"))) ?? [];
  if (editing || guessed.length === 0) return null;
  const steps = [...new Set(guessed.flatMap(({ step }) => (step ? [step] : [])))];
  return (
    <section
      aria-label="Found by their looks"
      className="border-b border-line bg-warn-wash px-3 py-2 text-[0.8125rem] text-warn"
    >
      <p className="flex items-start gap-1.5">
        <span className="mt-0.5">
          <Mark name="warned" />
        </span>
        {guessed.length === 1 ? "One picked thing has" : `${guessed.length} picked things have`} lost the name and{" "}
        {guessed.length === 1 ? "was" : "were"} found again by looks and place.
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-1 text-ink">
        {steps.map((id) => {
          const number = part.steps.findIndex((step) => step.id === id) + 1;
          const [first] = guessed.filter(({ step }) => step === id);
          return (
            <Button
              key={id}
              small
              onPointerEnter={() => first?.bodies?.[0] && set({ hover: { id: first.bodies[0], face: null } })}
              onPointerLeave={() => set({ hover: null })}
              onClick={() => {
                open(id);
                if (first?.field) set({ picking: first.field });
              }}
            >
              Pick again in step {number}
            </Button>
          );
        })}
        <Button small onClick={() => keepFound(guessed)}>
          Keep all that were found
        </Button>
      </div>
    </section>
  );
}

"use client";
import { Button } from "../controls/controls";
import { useWorkspace } from "../state/context";
import { useActions } from "./actions";
import { STAGE_LIST } from "./tools";

/** The stages of the work from top to bottom; one at a time shows its tools, each with what it is for. */
export function StageRail() {
  const stage = useWorkspace((state) => state.stage);
  const editing = useWorkspace((state) => state.editing);
  const set = useWorkspace((state) => state.set);
  const { begin } = useActions();
  const open = STAGE_LIST.find((entry) => entry.stage === stage);
  // A long list stands in two columns, so that all of it is seen at once.
  const many = (open?.tools.length ?? 0) > 7;
  return (
    <div className="relative z-10 flex">
      <nav aria-label="Stages" className="flex w-[88px] flex-col border-r border-line bg-sheet py-2">
        {STAGE_LIST.map(({ stage: name, label }, i) => (
          <button
            key={name}
            type="button"
            aria-expanded={stage === name}
            onClick={() => {
              if (name === "release") set({ exporting: true, stage: null });
              else set({ stage: stage === name ? null : name });
            }}
            className="flex h-11 items-center gap-2 border-l-4 border-transparent pr-2 pl-2 text-left hover:bg-well aria-expanded:border-ink aria-expanded:bg-well aria-expanded:font-medium"
          >
            <span className="num w-3 text-[0.75rem] text-soft">{i + 1}</span>
            {label}
          </button>
        ))}
      </nav>
      {open && open.tools.length > 0 ? (
        <section
          aria-label={`${open.label} tools`}
          className={`absolute top-0 left-[88px] m-2 max-h-[calc(100vh-5rem)] ${many ? "w-[36rem]" : "w-72"} overflow-auto rounded border border-line bg-sheet shadow-lg`}
        >
          <ul className={many ? "grid grid-cols-2 gap-px bg-line" : "divide-y divide-line"}>
            {open.tools.map((tool) => (
              <li key={tool.id} className="bg-sheet">
                <button
                  type="button"
                  disabled={editing !== null}
                  onClick={() => begin(tool.type, tool.values)}
                  className="block size-full px-3 py-2 text-left hover:bg-well disabled:opacity-50"
                >
                  <span className="font-medium">{tool.label}</span>
                  <span className="block text-[0.8125rem] text-soft">{tool.line}</span>
                </button>
              </li>
            ))}
          </ul>
          {editing ? (
            <p className="border-t border-line px-3 py-2 text-[0.8125rem] text-soft">
              Add or discard the open step first.
            </p>
          ) : (
            <div className="border-t border-line p-1.5 text-right">
              <Button small tone="quiet" onClick={() => set({ stage: null })}>
                Close
              </Button>
            </div>
          )}
        </section>
      ) : null}
    </div>
  );
}

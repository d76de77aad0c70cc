"use client";
import { type KeyboardEvent, useState } from "react";
import { ToolMark } from "../marks/tool-marks";
import { useWorkspace } from "../state/context";
import { useActions } from "./actions";
import { STAGE_LIST, type Tool, type ToolGroup } from "./tools";

/** The stages of the work from top to bottom; one at a time shows its tools, by their marks and words. */
export function StageRail() {
  const stage = useWorkspace((state) => state.stage);
  const set = useWorkspace((state) => state.set);
  const open = STAGE_LIST.find((entry) => entry.stage === stage);
  return (
    <div className="relative z-10 flex">
      <nav aria-label="Stages" className="flex w-[5.5rem] flex-col border-r border-line bg-sheet py-2">
        {STAGE_LIST.map(({ stage: name, label }, i) => (
          <button
            key={name}
            type="button"
            aria-expanded={stage === name}
            aria-keyshortcuts={String(i + 1)}
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
      {open && open.groups.length > 0 ? <Tools key={open.stage} label={open.label} groups={open.groups} /> : null}
    </div>
  );
}

/** The tools of a stage: what each does is said below while it is pointed at or has the focus. */
function Tools({ label, groups }: { label: string; groups: ToolGroup[] }) {
  const editing = useWorkspace((state) => state.editing !== null);
  const set = useWorkspace((state) => state.set);
  const { begin } = useActions();
  const [told, setTold] = useState<Tool | null>(null);
  return (
    <section
      aria-label={`${label} tools`}
      className="absolute top-0 left-[5.5rem] m-2 flex max-h-[calc(100dvh-5rem)] w-[22.5rem] flex-col overflow-auto rounded border border-line bg-sheet shadow-lg"
      onKeyDown={walkAmong}
    >
      {groups.map((group) => (
        <div key={group.label ?? "all"} className="px-1.5 pt-1.5">
          {group.label ? <h3 className="px-1 text-[0.75rem] text-soft">{group.label}</h3> : null}
          <ul className="grid grid-cols-5 gap-px">
            {group.tools.map((tool) => (
              <li key={tool.id}>
                <button
                  type="button"
                  disabled={editing}
                  aria-description={tool.line}
                  onPointerEnter={() => setTold(tool)}
                  onFocus={() => setTold(tool)}
                  onClick={() => begin(tool.type, tool.values)}
                  className="flex h-[3.6rem] w-full flex-col items-center gap-1 rounded px-0.5 pt-1.5 text-center hover:bg-well disabled:opacity-50"
                >
                  <ToolMark id={tool.id} size={22} />
                  <span className="text-[0.75rem] leading-[1.1]">{tool.label}</span>
                </button>
              </li>
            ))}
          </ul>
        </div>
      ))}
      <div className="mt-1.5 flex min-h-[3.2rem] items-start justify-between gap-2 border-t border-line bg-well px-2.5 py-1.5 text-[0.8125rem]">
        <p>
          {editing ? (
            "Add or discard the open step first."
          ) : told ? (
            <>
              <span className="font-medium">{told.label}.</span> {told.line}
            </>
          ) : (
            <span className="text-soft">Point at a tool to read what it does.</span>
          )}
        </p>
        <button
          type="button"
          className="shrink-0 rounded px-1.5 text-soft hover:bg-sheet hover:text-ink"
          onClick={() => set({ stage: null })}
        >
          Close
        </button>
      </div>
    </section>
  );
}

/** Arrow keys go from tool to tool, as they lie. */
function walkAmong(event: KeyboardEvent<HTMLElement>): void {
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  const way = ways[event.key];
  const from = document.activeElement;
  if (!way || !(from instanceof HTMLElement) || !event.currentTarget.contains(from)) return;
  const middle = (element: Element) => {
    const { left, top, width, height } = element.getBoundingClientRect();
    return [left + width / 2, top + height / 2] as const;
  };
  const [x, y] = middle(from);
  let best: { button: HTMLElement; cost: number } | null = null;
  for (const button of event.currentTarget.querySelectorAll<HTMLElement>("li button:not(:disabled)")) {
    const [bx, by] = middle(button);
    const ahead = (bx - x) * way[0] + (by - y) * way[1];
    const aside = Math.abs((bx - x) * way[1]) + Math.abs((by - y) * way[0]);
    const cost = ahead + 3 * aside;
    if (ahead > 2 && (!best || cost < best.cost)) best = { button, cost };
  }
  if (!best) return;
  event.preventDefault();
  best.button.focus();
}

"use client";
import type { ItemView, PieceView } from "@/engine/contract";
import { Mark } from "../marks/marks";
import { useFound, useWorkspace } from "../state/context";

interface Join {
  group: string;
  to: string;
}

/** The groups of an open division, and the body that each of them is joined to. */
export function PieceGroups({
  groups,
  pieces,
  before,
}: {
  groups: readonly string[];
  pieces: readonly PieceView[];
  /** What lies on the bench before the step. */
  before: readonly ItemView[];
}) {
  const step = useWorkspace((state) => state.editing?.step);
  const setValues = useWorkspace((state) => state.setValues);
  const found = useFound();
  if (groups.length === 0) return null;
  const joins = (step?.joins ?? []) as Join[];
  const divided = new Set(pieces.flatMap(({ stock }) => stock));
  const solids = before.filter(({ kind, id }) => kind === "solid" && !divided.has(id));
  const set = (group: string, to: string) => {
    const others = joins.filter((join) => join.group !== group);
    setValues({ joins: to ? [...others, { group, to }] : others });
  };
  return (
    <ul aria-label="Groups" className="flex flex-wrap items-center gap-x-4 gap-y-1 px-3 pt-1 text-[0.8125rem]">
      {groups.map((group) => {
        const to = joins.find((join) => join.group === group)?.to ?? "";
        const [chosen = to] = to ? found.items([to]) : [];
        return (
          <li key={group} className="flex min-w-0 items-center gap-1.5">
            <Mark name="group" width={13} height={13} />
            <span className="max-w-40 truncate" title={group}>
              {group}
            </span>
            <select
              aria-label={`${group} becomes`}
              value={chosen}
              onChange={({ target }) => set(group, target.value)}
              className="h-6 max-w-52 rounded border border-line bg-sheet px-1"
            >
              <option value="">a body of its own</option>
              {to && !solids.some(({ id }) => id === chosen) ? <option value={chosen}>what is gone</option> : null}
              {solids.map(({ id, name }) => (
                <option key={id} value={id}>
                  joined to {name}
                </option>
              ))}
            </select>
          </li>
        );
      })}
    </ul>
  );
}

"use client";
import { DropdownMenu } from "radix-ui";
import { useShallow } from "zustand/react/shallow";
import type { ItemView } from "@/engine/contract";
import { isBodyView } from "@/engine/contract";
import { describeFace } from "../forms/part-fields";
import { ToolMark } from "../marks/tool-marks";
import { useJob, usePart, useStores, useWorkspace } from "../state/context";
import { afterMeasurePick, NOTHING_MEASURED } from "../state/measuring";
import { shownPieces } from "../state/view-content";
import { toggledView } from "../state/visibility";
import type { Hover } from "../state/workspace-store";
import { useActions } from "../workspace/actions";
import { pickedTools } from "../workspace/picked-tools";
import { MenuItem } from "./menu-item";
import { PieceMenu } from "./piece-menu";

/** So many tools stand in the bar; the menu has them all. */
const SHOWN = 5;

/** What can be done with what is selected, under the view: by one press, filled in with it. */
export function PickedBar() {
  const { item, face } = usePicked();
  const idle = useWorkspace((state) => !state.editing && !state.measuring && !state.checking);
  const { workspace } = useStores();
  const { begin } = useActions();
  const words = useWordsOf();
  if (!item || !idle) return null;
  const all = pickedTools(item, face);
  const openMenu = (event: React.MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const home = event.currentTarget.closest("[data-view]")!.getBoundingClientRect();
    workspace.getState().set({
      menu: { x: box.left - home.left, y: box.top - home.top, hits: [{ id: item.id, face }] },
    });
  };
  return (
    <div
      role="toolbar"
      aria-label="What is selected"
      className="absolute bottom-9 left-[calc(var(--covered,0px)+0.5rem)] flex max-w-[calc(100%-var(--covered,0px)-7.5rem)] items-center gap-px overflow-hidden rounded border border-line bg-sheet/95 p-0.5 text-[0.8125rem] shadow"
    >
      <span className="min-w-24 max-w-48 shrink-0 truncate px-2 font-medium" title={words(item, face)}>
        {words(item, face)}
      </span>
      {/* What does not fit into the row wraps out of sight: the menu has it. */}
      <span className="flex h-7 min-w-0 flex-wrap overflow-hidden">
        {all.slice(0, SHOWN).map(({ tool, label, type, values }) => (
          <button
            key={tool + label}
            type="button"
            onClick={() => begin(type, values)}
            className="flex h-7 shrink-0 items-center gap-1 rounded px-1.5 hover:bg-well"
          >
            <ToolMark id={tool} size={17} />
            {label}
          </button>
        ))}
      </span>
      <button
        type="button"
        aria-haspopup="menu"
        onClick={openMenu}
        className="h-7 shrink-0 rounded px-2 hover:bg-well"
        aria-label="More that can be done with it"
      >
        More
      </button>
    </div>
  );
}

/** The menu at a place of the view: what lies there, and what can be done with the nearest. */
export function PointerMenu() {
  const menu = useWorkspace((state) => state.menu);
  const set = useWorkspace((state) => state.set);
  const items = useWorkspace((state) => state.evaluation?.items);
  const pieces = useWorkspace(useShallow(shownPieces));
  const words = useWordsOf();
  if (!menu) return null;
  const [first] = menu.hits;
  const known = (hit: Hover) => items?.find(({ id }) => id === hit.id);
  const item = first && known(first);
  return (
    <DropdownMenu.Root open onOpenChange={(next) => !next && set({ menu: null })} modal={false}>
      <DropdownMenu.Trigger asChild>
        <span aria-hidden className="pointer-events-none absolute size-px" style={{ left: menu.x, top: menu.y }} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          collisionPadding={8}
          className="z-30 max-h-(--radix-dropdown-menu-content-available-height) min-w-60 max-w-80 overflow-auto rounded border border-rule bg-sheet/98 p-1 shadow-lg"
        >
          {pieces ? <PieceMenu pieces={pieces} hits={menu.hits} /> : null}
          {!pieces && menu.hits.length > 1 ? (
            <>
              <DropdownMenu.Label className="px-2 py-0.5 text-[0.75rem] text-soft">What lies here</DropdownMenu.Label>
              {menu.hits.slice(0, 12).map((hit, i) => {
                const under = known(hit);
                return under ? (
                  <MenuItem
                    key={`${hit.id}|${hit.face}`}
                    onFocus={() => set({ hover: hit })}
                    onSelect={() => set({ selected: hit.id, selectedFace: hit.face })}
                  >
                    <span className="num w-4 text-soft">{i + 1}</span>
                    <span className="min-w-0 truncate">{words(under, hit.face)}</span>
                  </MenuItem>
                ) : null;
              })}
              <DropdownMenu.Separator className="my-1 h-px bg-line" />
            </>
          ) : null}
          {!pieces && item && first ? <ItemMenu item={item} face={first.face} /> : null}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function ItemMenu({ item, face }: { item: ItemView; face: number | null }) {
  const { workspace } = useStores();
  const part = usePart();
  const { begin, open } = useActions();
  const words = useWordsOf();
  const { set } = workspace.getState();
  const step = part.steps.find(({ id }) => id === item.step);
  const groups = face === null ? [null] : [face, null];
  return (
    <>
      {groups.map((place) => (
        <div key={String(place)}>
          <DropdownMenu.Label className="truncate px-2 py-0.5 text-[0.75rem] text-soft">
            {words(item, place)}
          </DropdownMenu.Label>
          {pickedTools(item, place).map(({ tool, label, type, values }) => (
            <MenuItem key={tool + label} onSelect={() => begin(type, values)}>
              <ToolMark id={tool} size={17} />
              {label}
            </MenuItem>
          ))}
        </div>
      ))}
      <DropdownMenu.Separator className="my-1 h-px bg-line" />
      <MenuItem
        onSelect={() =>
          set({ measuring: afterMeasurePick(NOTHING_MEASURED, { id: item.id, face }), selected: null, hover: null })
        }
      >
        Measure from it
      </MenuItem>
      <MenuItem onSelect={() => set({ selected: item.id, selectedFace: face })}>Its facts</MenuItem>
      <MenuItem onSelect={() => set(toggledView(item, part, workspace.getState()))}>Hide it</MenuItem>
      <MenuItem onSelect={() => set({ alone: workspace.getState().alone === item.id ? null : item.id })}>
        {workspace.getState().alone === item.id ? "Show the others again" : "Show it alone"}
      </MenuItem>
      {step ? <MenuItem onSelect={() => open(step.id)}>Open the step that made it</MenuItem> : null}
    </>
  );
}

function usePicked(): { item: ItemView | undefined; face: number | null } {
  const item = useWorkspace((state) => state.evaluation?.items.find(({ id }) => id === state.selected));
  const face = useWorkspace((state) => state.selectedFace);
  return { item, face };
}

/** An item, or one of its faces, in words. */
function useWordsOf() {
  const unit = useJob((state) => state.job.units);
  return (item: ItemView, face: number | null) =>
    face !== null && isBodyView(item) && item.faces[face]
      ? `${item.name}: ${describeFace(item.faces[face], unit)}`
      : item.name;
}

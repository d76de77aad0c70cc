"use client";
import { Bookmark, Pencil, Trash2 } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { type SavedView, viewEdits } from "@/core/job";
import { useKeysOf } from "../commands/use-keys-of";
import { Button, IconButton } from "../controls/controls";
import { usePart, useStores, useWorkspace } from "../state/context";
import { freeViewName, takeView, viewNow } from "../state/saved-views";
import type { ViewScene } from "../viewport/scene";
import { RenameBox } from "./rename-box";

/** The views that the part keeps under names: gone back to, renamed, thrown away; and how it is looked at now, to be kept. */
export function ViewsPopover({ scene }: { scene: ViewScene | null }) {
  const open = useWorkspace((state) => state.viewsOpen);
  const set = useWorkspace((state) => state.set);
  const keys = useKeysOf("views");
  return (
    <Popover.Root open={open} onOpenChange={(viewsOpen) => set({ viewsOpen })}>
      <Popover.Trigger asChild>
        <IconButton label="Views of the part" keys={keys} className="size-7!">
          <Bookmark size={16} aria-hidden />
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="end"
          sideOffset={6}
          collisionPadding={8}
          aria-label="Views of the part"
          className="z-50 flex max-h-[60vh] w-72 flex-col gap-2 rounded border border-line bg-sheet p-3 shadow-lg"
        >
          {scene ? <Views scene={scene} /> : null}
          <Popover.Close className="sr-only">Close</Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Views({ scene }: { scene: ViewScene }) {
  const { job, workspace } = useStores();
  const part = usePart();
  const [typed, setTyped] = useState("");
  const [taken, setTaken] = useState<string | null>(null);
  const edit = job.store.getState().editPart;
  const name = typed.trim() || freeViewName(part.views);
  const replaces = part.views.some((view) => view.name === name);
  const keep = () => {
    edit(part.id, `Keep the view ${name}`, (draft) => viewEdits.keepView(draft, viewNow(name, scene, workspace)));
    setTyped("");
  };
  return (
    <>
      {part.views.length > 0 ? (
        <ul aria-label="Kept views" className="flex min-h-0 flex-col overflow-auto">
          {part.views.map((view) => (
            <ViewRow
              key={view.name}
              view={view}
              take={() => takeView(view, scene, workspace)}
              rename={(now) => {
                const clash = part.views.some(({ name }) => name === now);
                setTaken(clash ? now : null);
                if (!clash)
                  edit(part.id, `Call the view ${view.name} ${now}`, (draft) =>
                    viewEdits.renameView(draft, view.name, now),
                  );
              }}
              remove={() =>
                edit(part.id, `Throw away the view ${view.name}`, (draft) => viewEdits.removeView(draft, view.name))
              }
            />
          ))}
        </ul>
      ) : (
        <p className="text-soft">
          Turn the part as you want to see it again, cut it open if need be, and keep that under a name.
        </p>
      )}
      {taken ? (
        <p role="alert" className="text-[0.8125rem] text-warn">
          Another view is called “{taken}”. Nothing was renamed.
        </p>
      ) : null}
      <form
        className="flex items-end gap-2 border-t border-line pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <label className="flex min-w-0 flex-1 flex-col text-[0.8125rem] text-soft">
          Name
          <input
            value={typed}
            placeholder={freeViewName(part.views)}
            maxLength={120}
            onChange={(event) => setTyped(event.target.value)}
            className="h-8 rounded border border-line bg-paper px-2 text-[0.875rem] text-ink"
          />
        </label>
        <Button type="submit">{replaces ? "Replace it" : "Keep this view"}</Button>
      </form>
    </>
  );
}

function ViewRow({
  view,
  take,
  rename,
  remove,
}: {
  view: SavedView;
  take(): void;
  rename(name: string): void;
  remove(): void;
}) {
  const [renaming, setRenaming] = useState(false);
  if (renaming)
    return (
      <li>
        <RenameBox
          value={view.name}
          placeholder={view.name}
          onDone={(now) => {
            setRenaming(false);
            if (now?.trim() && now.trim() !== view.name) rename(now.trim());
          }}
        />
      </li>
    );
  return (
    <li className="flex items-center gap-0.5">
      <button
        type="button"
        onClick={take}
        className="min-w-0 flex-1 truncate rounded px-1.5 py-1 text-left hover:bg-well"
        title={view.name}
      >
        {view.name}
        {view.section ? <span className="text-[0.8125rem] text-soft"> cut open</span> : null}
      </button>
      <IconButton label={`Rename ${view.name}`} className="size-7!" onClick={() => setRenaming(true)}>
        <Pencil size={14} aria-hidden />
      </IconButton>
      <IconButton label={`Throw away ${view.name}`} className="size-7!" onClick={remove}>
        <Trash2 size={14} aria-hidden />
      </IconButton>
    </li>
  );
}

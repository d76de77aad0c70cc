"use client";
import { Eye, EyeOff, Focus, StickyNote } from "lucide-react";
import { useState } from "react";
import { counted } from "@/core/words";
import { type ItemView, isBodyView } from "@/engine/contract";
import { IconButton } from "../controls/controls";
import { shownAs } from "../items";
import { Mark } from "../marks/marks";
import { ToolMark, toolOf } from "../marks/tool-marks";
import { Thumbnail } from "../pictures/thumbnail";
import { formatMass } from "../settings/format";
import { useFound, useJob, usePart, useStores, useWorkspace } from "../state/context";
import { lacksWords } from "../state/lacks";
import { lookOf, massOf } from "../state/looks";
import { notesOf } from "../state/notes";
import { colourOf } from "../state/tints";
import { isOut, toggledView } from "../state/visibility";
import { useActions } from "./actions";
import { LooksPopover } from "./looks-popover";
import { RenameBox } from "./rename-box";
import { useTheme } from "./theme";

/** A card of the bench: a body with its picture, name, size and state, and what can be done with it. */
export function BodyCard({ item }: { item: ItemView }) {
  const unit = useJob((state) => state.job.units);
  const materials = useJob((state) => state.job.materials);
  const part = usePart();
  const hidden = useWorkspace((state) => isOut(item, part, state));
  const mesh = useWorkspace((state) => (isBodyView(item) ? state.meshes.get(item.meshId) : undefined));
  const hovered = useWorkspace((state) => state.hover?.id === item.id);
  const selected = useWorkspace((state) => state.selected === item.id);
  const { workspace } = useStores();
  const alone = useWorkspace((state) => state.alone);
  const set = useWorkspace((state) => state.set);
  const { renameBody } = useActions();
  const { dark } = useTheme();
  const [renaming, setRenaming] = useState(false);
  const shown = shownAs(item);
  const { words, bad } = shown.state(item);
  const look = isBodyView(item) ? lookOf(part, item) : {};
  const mass = isBodyView(item) ? massOf({ materials }, part, item) : null;
  const found = useFound();
  const notes = isBodyView(item) ? notesOf(part, item, found).length : 0;
  const lacks = lacksWords(item, part);
  const colour = useWorkspace((state) => colourOf(item.id, look, state.evaluation?.items ?? [], dark));
  const maker = part.steps.find(({ id }) => id === item.step);
  return (
    <article
      aria-label={item.name}
      data-body={item.id}
      onPointerEnter={() => set({ hover: { id: item.id, face: null } })}
      onPointerLeave={() => set({ hover: null })}
      className={`flex w-[228px] shrink-0 gap-2 rounded border bg-sheet p-2 ${selected ? "border-ink" : "border-line"} ${hovered ? "bg-pick-wash" : ""}`}
    >
      <button
        type="button"
        aria-pressed={selected}
        aria-label={`Select ${item.name}`}
        onClick={() => set({ selected: selected ? null : item.id, selectedFace: null })}
        className="self-start rounded"
      >
        {!isBodyView(item) ? (
          <span className="grid size-[44px] place-items-center rounded-sm bg-well">
            <Mark name={item.kind} width={26} height={26} />
          </span>
        ) : (
          <Thumbnail mesh={mesh} colour={colour} />
        )}
      </button>
      <div className="min-w-0 grow">
        {renaming ? (
          <RenameBox
            value={item.name}
            placeholder={item.name}
            onDone={(name) => {
              setRenaming(false);
              if (name !== null) renameBody(item.id, name);
            }}
          />
        ) : (
          <button
            type="button"
            title="Rename"
            onClick={() => setRenaming(true)}
            className="block max-w-full truncate rounded text-left font-medium hover:underline"
          >
            {item.name}
          </button>
        )}
        <p className="num truncate" title={mass ? `${mass.material.name}, ${mass.material.density} g/cm³` : undefined}>
          {shown.size(item, unit)}
          {mass ? `, ${formatMass(mass.grams, unit)}` : ""}
        </p>
        <p
          className={`flex min-w-0 items-center gap-1 text-[0.8125rem] ${bad ? "text-bad" : lacks ? "text-warn" : "text-soft"}`}
          title={lacks || undefined}
        >
          <Mark name={item.kind} className="shrink-0" />
          {maker ? <ToolMark id={toolOf(maker)} size={15} className="text-rule" /> : null}
          <span className="truncate">{lacks && !bad ? lacks.replace(/^./, (c) => c.toUpperCase()) : words}</span>
        </p>
        <div className="-ml-1.5 flex">
          <IconButton
            label={hidden ? `Show ${item.name}` : `Hide ${item.name}`}
            className="size-6!"
            onClick={() => set(toggledView(item, part, workspace.getState()))}
          >
            {hidden ? <EyeOff size={15} aria-hidden /> : <Eye size={15} aria-hidden />}
          </IconButton>
          <IconButton
            label={`Show ${item.name} alone`}
            aria-pressed={alone === item.id}
            className="size-6!"
            onClick={() => set({ alone: alone === item.id ? null : item.id })}
          >
            <Focus size={15} aria-hidden />
          </IconButton>
          {isBodyView(item) ? <LooksPopover body={item} /> : null}
          {notes > 0 ? (
            <IconButton
              label={`${counted(notes, "note")} on ${item.name}`}
              className="size-6!"
              onClick={() => set({ selected: item.id, selectedFace: null })}
            >
              <StickyNote size={15} aria-hidden />
            </IconButton>
          ) : null}
        </div>
      </div>
    </article>
  );
}

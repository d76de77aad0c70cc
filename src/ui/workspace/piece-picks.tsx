"use client";
import { CheckCheck, X } from "lucide-react";
import type { PieceView } from "@/engine/contract";
import { IconButton } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useWorkspace } from "../state/context";
import type { WantedFate } from "../state/fates";
import { freeGroup } from "../state/piece-picks";

const FATES = [
  ["keep", "Keep"],
  ["scrap", "Scrap"],
  ["group", "Join"],
] as const;

/** Pieces picked to be decided on together: each gets a decision of its own, unlike those that a rule is for. */
export function PicksBar({
  pieces,
  shown,
  groups,
  onDecide,
}: {
  pieces: readonly PieceView[];
  /** Those that the tray shows now. */
  shown: readonly PieceView[];
  groups: readonly string[];
  onDecide(wanted: (piece: PieceView) => WantedFate): void;
}) {
  const picks = useWorkspace((state) => state.pickedPieces);
  const set = useWorkspace((state) => state.set);
  const count = pieces.filter(({ key }) => picks.has(key)).length;
  const decide = (fate: WantedFate) => onDecide((piece) => (picks.has(piece.key) ? fate : piece.fate));
  const pickShown = () => set({ pickedPieces: new Set([...picks, ...shown.map(({ key }) => key)]) });
  const all = shown.every(({ key }) => picks.has(key));
  return (
    <fieldset aria-label="Picked pieces" className="flex items-center gap-1.5 text-[0.8125rem]">
      <IconButton label="Pick all that are shown" className="size-7! border-line!" disabled={all} onClick={pickShown}>
        <CheckCheck size={14} aria-hidden />
      </IconButton>
      {count > 0 ? (
        <>
          <span role="status">
            <span className="num">{count}</span> picked
          </span>
          {FATES.map(([fate, word]) => (
            <IconButton
              key={fate}
              label={`${word} the picked pieces`}
              className="size-7! border-line!"
              onClick={() => decide(fate === "group" ? { fate, group: freeGroup(groups) } : { fate })}
            >
              <Mark name={fate} width={15} height={15} />
            </IconButton>
          ))}
          <button
            type="button"
            aria-label="Pick none"
            onClick={() => set({ pickedPieces: new Set(), pickedLast: null })}
            className="rounded p-0.5 text-soft hover:text-ink"
          >
            <X size={14} aria-hidden />
          </button>
        </>
      ) : null}
    </fieldset>
  );
}

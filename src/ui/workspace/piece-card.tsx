"use client";
import { ListFilter } from "lucide-react";
import { memo, useRef } from "react";
import type { PieceView } from "@/engine/contract";
import { Check, Choice, IconButton } from "../controls/controls";
import { Mark } from "../marks/marks";
import { Thumbnail } from "../pictures/thumbnail";
import { formatArea, formatLength, formatVolume } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import type { WantedFate } from "../state/fates";
import { like } from "../state/piece-filter";
import { neighboursOf } from "../state/piece-picks";
import { pieceColour } from "../viewport/palette";
import { PieceNumber } from "../viewport/piece-number";

/** Pixels: all cards are as wide, so that it is known which of hundreds are in sight. */
export const CARD_WIDTH = 236;

/** What a piece is, where it lies, and its fate. Drawn anew only for what it shows. */
export const PieceCard = memo(function PieceCard({
  piece,
  called,
  where,
  nextGroup,
  asked,
  place,
  of,
  onFate,
  onPick,
}: {
  piece: PieceView;
  /** The name of the stock that it is of. */
  called: string;
  /** Where it lies, in words. */
  where: string;
  /** The group that it goes into where none is named. */
  nextGroup: string;
  /** What the step asks about it, in a word or two; null where it asks nothing. */
  asked: string | null;
  /** Which it is of how many in the tray: most of them are not there while they are out of sight. */
  place: number;
  of: number;
  onFate(key: string, fate: WantedFate): void;
  /** Picks it, or leaves it; all from the one picked last up to it. */
  onPick(key: string, upTo: boolean): void;
}) {
  const unit = useJob((state) => state.job.units);
  const hovered = useWorkspace((state) => state.hover?.id === piece.key);
  const selected = useWorkspace((state) => state.selected === piece.key);
  const picked = useWorkspace((state) => state.pickedPieces.has(piece.key));
  // Cut from the piece that is pointed at, or picked in the view.
  const near = useWorkspace(({ hover, selected, evaluation }) =>
    neighboursOf(evaluation?.pieces, hover?.id ?? selected).has(piece.index),
  );
  const shift = useRef(false);
  const set = useWorkspace((state) => state.set);
  const size =
    piece.measures.volume !== null
      ? formatVolume(piece.measures.volume, unit, piece.measures.volumeWithin)
      : formatArea(piece.measures.area, unit);
  const beside = [
    piece.neighbours.length > 0 ? `next to ${piece.neighbours.map((other) => other + 1).join(", ")}` : "",
    piece.seam > 0 ? `seam ${formatLength(piece.seam, unit)}` : "",
  ]
    .filter((words) => words !== "")
    .join(" · ");
  return (
    <li
      aria-posinset={place}
      aria-setsize={of}
      data-piece={piece.key}
      data-fate={piece.fate.fate}
      style={{ width: CARD_WIDTH }}
      onPointerEnter={() => set({ hover: { id: piece.key, face: null } })}
      onPointerLeave={() => set({ hover: null })}
      data-near={near || undefined}
      className={`shrink-0 rounded border bg-sheet p-2 ${hovered || selected ? "border-ink bg-pick-wash" : asked ? "border-2 border-warn bg-warn-wash" : near ? "border-dashed border-ink" : "border-line"} ${piece.fate.fate === "scrap" ? "hatch" : ""}`}
    >
      <div className="flex gap-2">
        <div className="relative">
          <Thumbnail mesh={piece.mesh} colour={pieceColour(piece.index)} />
          <span className="absolute -top-1 -left-1">
            <PieceNumber index={piece.index} />
          </span>
        </div>
        <div className="min-w-0 grow">
          <div className="flex items-start gap-1">
            <p className="min-w-0 grow truncate font-medium">
              {called} {piece.index + 1}
            </p>
            <IconButton
              label={`All like piece ${piece.index + 1}`}
              className="size-5!"
              onClick={() => set({ pieceFilter: like(piece) })}
            >
              <ListFilter size={13} aria-hidden />
            </IconButton>
            {of > 1 ? (
              <span
                onClickCapture={(event) => {
                  shift.current = event.shiftKey;
                }}
              >
                <Check
                  label={`Pick piece ${piece.index + 1}`}
                  checked={picked}
                  onChange={() => onPick(piece.key, shift.current)}
                />
              </span>
            ) : null}
          </div>
          <p className="num">{size}</p>
          {asked ? <p className="text-[0.8125rem] text-warn">{asked}</p> : null}
          {piece.measures.pinches.length > 0 ? <p className="text-[0.8125rem] text-bad">touches itself</p> : null}
        </div>
      </div>
      <p title={where} className="mt-1 h-[18px] truncate text-[0.8125rem] leading-[18px] text-soft">
        {where}
      </p>
      <p title={beside} className="h-[18px] truncate text-[0.8125rem] leading-[18px] text-soft">
        {beside}
      </p>
      <div className="mt-1 flex items-center gap-1">
        <Choice
          small
          hideLabel
          label={`Fate of piece ${piece.index + 1}`}
          value={piece.fate.fate}
          options={[
            { value: "keep", label: "Keep", icon: <Mark name="keep" width={13} height={13} /> },
            { value: "scrap", label: "Scrap", icon: <Mark name="scrap" width={13} height={13} /> },
            { value: "group", label: "Group", icon: <Mark name="group" width={13} height={13} /> },
          ]}
          onChange={(fate) =>
            onFate(piece.key, fate === "group" ? { fate, group: piece.fate.group ?? nextGroup } : { fate })
          }
        />
      </div>
      {piece.fate.fate === "group" ? (
        <input
          aria-label={`Group of piece ${piece.index + 1}`}
          list="piece-groups"
          value={piece.fate.group ?? ""}
          maxLength={60}
          onChange={(event) =>
            event.target.value.trim() && onFate(piece.key, { fate: "group", group: event.target.value })
          }
          className="mt-1 h-6 w-full rounded border border-line bg-sheet px-1.5 text-[0.8125rem]"
        />
      ) : null}
    </li>
  );
});

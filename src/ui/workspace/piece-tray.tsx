"use client";
import { ArrowLeftRight } from "lucide-react";
import { memo, useCallback, useMemo, useRef } from "react";
import type { Trouble } from "@/core/errors";
import type { FateRule } from "@/core/seam";
import { formatArea, formatVolume } from "@/core/units";
import type { ItemView, PieceView } from "@/engine/contract";
import { Button, Choice, Range } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useJob, useWorkspace } from "../state/context";
import { inverted, openRules, rulesFor, type WantedFate } from "../state/fates";
import { sideWord } from "../state/sides";
import type { ShownPieces } from "../state/workspace-store";
import { pieceColour } from "../viewport/palette";
import { Thumbnail } from "./thumbnail";

/** While a seam is open the bench is the tray of its pieces: what each is, where it lies, and its fate. */
export function PieceTray({ pieces }: { pieces: PieceView[] }) {
  const shown = useWorkspace((state) => state.shownPieces);
  const set = useWorkspace((state) => state.set);
  const setDraft = useWorkspace((state) => state.setDraft);
  const unit = useJob((state) => state.job.units);
  const kept = pieces.filter((piece) => piece.fate.fate !== "scrap");
  const total = kept.reduce((sum, piece) => sum + (piece.measures.volume ?? 0), 0);
  const step = useWorkspace((state) => state.editing?.step);
  const warnings = useWorkspace((state) => state.evaluation?.steps.find(({ id }) => id === step?.id)?.warnings ?? NONE);
  const asked = new Set(warnings.flatMap((warning) => warning.pieces ?? []));
  const decide = (wanted: (piece: PieceView) => WantedFate) =>
    setDraft({ fates: rulesFor(pieces, wanted, openRules((step?.fates ?? []) as FateRule[], warnings)) });
  const visible = pieces.filter(
    (piece) => shown === "both" || (shown === "scrapped") === (piece.fate.fate === "scrap"),
  );
  const groups = useMemo(
    () => [...new Set(pieces.flatMap((piece) => (piece.fate.group ? [piece.fate.group] : [])))],
    [pieces],
  );
  const before = useWorkspace((state) => state.evaluation?.before);
  const items = useMemo(() => new Map((before ?? []).map((item) => [item.id, item] as const)), [before]);
  // The same for as long as the tray is there, so that a card is drawn anew only for what it shows.
  const deciding = useRef(decide);
  deciding.current = decide;
  const onFate = useCallback(
    (key: string, fate: WantedFate) => deciding.current((other) => (other.key === key ? fate : other.fate)),
    [],
  );
  return (
    <section aria-label="Pieces" className="border-t border-line bg-paper">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-3 pt-2">
        <h2 className="font-semibold">
          <span className="num">{pieces.length}</span> pieces
        </h2>
        <p className="text-[13px] text-soft">
          <span className="num">{kept.length}</span> stay{total > 0 ? `, ${formatVolume(total, unit)}` : ""}
        </p>
        <Choice<ShownPieces>
          small
          hideLabel
          label="Pieces shown"
          value={shown}
          options={[
            { value: "kept", label: "Kept" },
            { value: "scrapped", label: "Scrapped" },
            { value: "both", label: "Both" },
          ]}
          onChange={(next) => set({ shownPieces: next })}
        />
        <Button small onClick={() => decide(inverted)}>
          <ArrowLeftRight size={14} aria-hidden />
          Invert
        </Button>
        <PullApart />
      </div>
      <ul className="flex gap-2 overflow-x-auto p-2">
        {visible.map((piece) => (
          <PieceCard
            key={piece.key}
            piece={piece}
            called={stockName(piece, items)}
            where={whereabouts(piece, items)}
            nextGroup={groups[0] ?? "Group 1"}
            asked={asked.has(piece.key)}
            onFate={onFate}
          />
        ))}
        {visible.length === 0 ? (
          <li className="p-3 text-soft">No piece is {shown === "kept" ? "kept" : "scrapped"}.</li>
        ) : null}
      </ul>
      <datalist id="piece-groups">
        {groups.map((group) => (
          <option key={group} value={group} />
        ))}
      </datalist>
    </section>
  );
}

/** By itself: while it is dragged, the cards of the pieces have nothing to do. */
function PullApart() {
  const pull = useWorkspace((state) => state.pull);
  const set = useWorkspace((state) => state.set);
  return (
    <div className="flex items-center gap-2">
      <span className="text-[13px] text-soft">Pull apart</span>
      <Range label="Pull pieces apart" value={pull} onChange={(next) => set({ pull: next })} className="w-36" />
    </div>
  );
}

const NONE: readonly Trouble[] = [];

const PieceCard = memo(function PieceCard({
  piece,
  called,
  where,
  nextGroup,
  asked,
  onFate,
}: {
  piece: PieceView;
  /** The name of the stock that it is of. */
  called: string;
  /** Where it lies, in words. */
  where: string;
  /** The group that it goes into where none is named. */
  nextGroup: string;
  /** Whether the step asks about it. */
  asked: boolean;
  onFate(key: string, fate: WantedFate): void;
}) {
  const unit = useJob((state) => state.job.units);
  const hovered = useWorkspace((state) => state.hover?.id === piece.key);
  const selected = useWorkspace((state) => state.selected === piece.key);
  const set = useWorkspace((state) => state.set);
  const size =
    piece.measures.volume !== null ? formatVolume(piece.measures.volume, unit) : formatArea(piece.measures.area, unit);
  return (
    <li
      id={`piece-${piece.key}`}
      data-piece={piece.key}
      data-fate={piece.fate.fate}
      onPointerEnter={() => set({ hover: { id: piece.key, face: null } })}
      onPointerLeave={() => set({ hover: null })}
      className={`w-[236px] shrink-0 rounded border bg-sheet p-2 ${hovered || selected ? "border-ink bg-pick-wash" : asked ? "border-2 border-warn bg-warn-wash" : "border-line"} ${piece.fate.fate === "scrap" ? "hatch" : ""}`}
    >
      <div className="flex gap-2">
        <div className="relative">
          <Thumbnail mesh={piece.mesh} colour={pieceColour(piece.index)} />
          <span
            className="num absolute -top-1 -left-1 grid size-5 place-items-center rounded-full border border-ink text-[12px] text-white"
            style={{ background: pieceColour(piece.index), textShadow: "0 0 2px #000, 0 0 2px #000" }}
          >
            {piece.index + 1}
          </span>
        </div>
        <div className="min-w-0 grow">
          <p className="truncate font-medium">
            {called} {piece.index + 1}
          </p>
          <p className="num">{size}</p>
          {asked ? <p className="text-[13px] text-warn">asked about</p> : null}
          {piece.measures.pinches.length > 0 ? <p className="text-[13px] text-bad">touches itself</p> : null}
        </div>
      </div>
      <p title={where} className="mt-1 line-clamp-2 h-9 text-[13px] leading-[18px] text-soft">
        {where}
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
          className="mt-1 h-6 w-full rounded border border-line bg-sheet px-1.5 text-[13px]"
        />
      ) : null}
    </li>
  );
});

type Items = ReadonlyMap<string, ItemView>;

function stockName(piece: PieceView, items: Items): string {
  return items.get(piece.stock[0]!)?.name ?? "Piece";
}

/** Where a piece lies, in words: “outside Foot pad, in front of Sheet”. */
function whereabouts(piece: PieceView, items: Items): string {
  return Object.entries(piece.sides)
    .map(([id, side]) => {
      const item = items.get(id);
      return `${sideWord(item, side)} ${item?.name ?? "a picked face"}`;
    })
    .join(", ");
}

"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowLeftRight } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef } from "react";
import type { Trouble } from "@/core/errors";
import type { ItemView, PieceView } from "@/engine/contract";
import { Button, Choice, Range } from "../controls/controls";
import { formatVolume } from "../settings/format";
import { useJob, useStores, useWorkspace } from "../state/context";
import { inverted, type WantedFate } from "../state/fates";
import { inOrder, isEvery, isShown } from "../state/piece-filter";
import { pickedTo, toggled } from "../state/piece-picks";
import { sideWord } from "../state/sides";
import { useDecide } from "../state/use-decide";
import type { ShownPieces } from "../state/workspace-store";
import { ComesOut } from "./comes-out";
import { CARD_WIDTH, PieceCard } from "./piece-card";
import { FilterBar } from "./piece-filter";
import { PieceGroups } from "./piece-groups";
import { PicksBar } from "./piece-picks";

/** While a seam is open the bench is the tray of its pieces: what each is, where it lies, and its fate. */
export function PieceTray({ pieces }: { pieces: PieceView[] }) {
  const { workspace } = useStores();
  const shown = useWorkspace((state) => state.shownPieces);
  const set = useWorkspace((state) => state.set);
  const decide = useDecide();
  const unit = useJob((state) => state.job.units);
  const kept = pieces.filter((piece) => piece.fate.fate !== "scrap");
  const total = kept.reduce((sum, piece) => sum + (piece.measures.volume ?? 0), 0);
  const step = useWorkspace((state) => state.editing?.step);
  const warnings = useWorkspace((state) => state.evaluation?.steps.find(({ id }) => id === step?.id)?.warnings ?? NONE);
  const about = (isNew: boolean) =>
    new Set(warnings.flatMap(({ code, pieces = [] }) => ((code === "new-pieces") === isNew ? pieces : [])));
  const [asked, fresh] = [about(false), about(true)];
  const filter = useWorkspace((state) => state.pieceFilter);
  const order = useWorkspace((state) => state.pieceOrder);
  const anyPicked = useWorkspace((state) => state.pickedPieces.size > 0);
  const fitting = pieces.filter((piece) => isShown(filter, piece));
  const visible = inOrder(
    fitting.filter((piece) => shown === "both" || (shown === "scrapped") === (piece.fate.fate === "scrap")),
    order,
  );
  const groups = useMemo(
    () => [...new Set(pieces.flatMap((piece) => (piece.fate.group ? [piece.fate.group] : [])))],
    [pieces],
  );
  const before = useWorkspace((state) => state.evaluation?.before);
  const items = useMemo(() => new Map((before ?? []).map((item) => [item.id, item] as const)), [before]);
  const hasRules = ((step?.rules ?? []) as unknown[]).length > 0;
  // The same for as long as the tray is there, so that a card is drawn anew only for what it shows.
  const deciding = useRef(decide);
  deciding.current = decide;
  const onFate = useCallback(
    (key: string, fate: WantedFate) => deciding.current((other) => (other.key === key ? fate : other.fate)),
    [],
  );
  const inTray = useRef<string[]>([]);
  inTray.current = visible.map(({ key }) => key);
  const onPick = useCallback(
    (key: string, upTo: boolean) => {
      const { pickedPieces, pickedLast } = workspace.getState();
      const picked = upTo ? pickedTo(pickedPieces, inTray.current, pickedLast, key) : toggled(pickedPieces, key);
      workspace.getState().set({ pickedPieces: picked, pickedLast: key });
    },
    [workspace],
  );
  // Only the cards in sight are there: hundreds would take longer to make than the pieces themselves.
  const strip = useRef<HTMLDivElement>(null);
  const row = useVirtualizer({
    horizontal: true,
    count: visible.length,
    getScrollElement: () => strip.current,
    estimateSize: () => CARD_WIDTH,
    getItemKey: (i) => visible[i]!.key,
    gap: GAP,
    overscan: 3,
  });
  const cards = row.getVirtualItems();
  const first = cards[0]?.index ? cards[0] : undefined;
  // What is picked in the view is brought into sight here.
  const selected = useWorkspace((state) => state.selected);
  const place = visible.findIndex(({ key }) => key === selected);
  useEffect(() => {
    if (place >= 0) row.scrollToIndex(place, { align: "auto" });
  }, [place, row]);
  return (
    <section aria-label="Pieces" className="border-t border-line bg-paper">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-3 pt-2">
        <h2 className="font-semibold">
          <span className="num">{pieces.length}</span> {pieces.length === 1 ? "piece" : "pieces"}
        </h2>
        <p className="text-[0.8125rem] text-soft">
          <span className="num">{kept.length}</span> {kept.length === 1 ? "stays" : "stay"}
          {total > 0 ? `, ${formatVolume(total, unit)}` : ""}
        </p>
        <ComesOut />
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
      {pieces.length > 2 || hasRules || anyPicked || !isEvery(filter) ? (
        <FilterBar pieces={pieces} count={fitting.length} items={items}>
          <PicksBar pieces={pieces} shown={visible} groups={groups} onDecide={decide} />
        </FilterBar>
      ) : null}
      <PieceGroups groups={groups} pieces={pieces} before={before ?? NO_ITEMS} />
      <div ref={strip} className="overflow-x-auto p-2">
        <ul className="flex" style={{ gap: GAP, width: visible.length > 0 ? row.getTotalSize() : undefined }}>
          {first ? <li role="presentation" className="shrink-0" style={{ width: first.start - GAP }} /> : null}
          {cards.map(({ index }) => {
            const piece = visible[index]!;
            return (
              <PieceCard
                key={piece.key}
                piece={piece}
                called={stockName(piece, items)}
                where={whereabouts(piece, items)}
                nextGroup={groups[0] ?? "Group 1"}
                asked={asked.has(piece.key) ? "asked about" : fresh.has(piece.key) ? "new" : null}
                place={index + 1}
                of={visible.length}
                onFate={onFate}
                onPick={onPick}
              />
            );
          })}
          {visible.length === 0 ? (
            <li className="p-3 text-soft">No piece is {shown === "kept" ? "kept" : "scrapped"}.</li>
          ) : null}
        </ul>
      </div>
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
      <span className="text-[0.8125rem] text-soft">Pull apart</span>
      <Range label="Pull pieces apart" value={pull} onChange={(next) => set({ pull: next })} className="w-36" />
    </div>
  );
}

/** Pixels between cards. */
const GAP = 8;

const NONE: readonly Trouble[] = [];
const NO_ITEMS: readonly ItemView[] = [];

type Items = ReadonlyMap<string, ItemView>;

function stockName(piece: PieceView, items: Items): string {
  const [stock] = piece.stock;
  return stock ? (items.get(stock)?.name ?? "Piece") : "Fill";
}

/** Where a piece lies, in words: “outside Foot pad, in front of Sheet”. */
function whereabouts(piece: PieceView, items: Items): string {
  return Object.entries(piece.sides)
    .map(([id, side]) => {
      const item = items.get(id);
      const word = piece.stock.length === 0 && side === "out" ? "enclosed by" : sideWord(item, side);
      return `${word} ${item?.name ?? "a picked face"}`;
    })
    .join(", ");
}

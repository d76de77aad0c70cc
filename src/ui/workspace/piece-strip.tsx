"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useRef } from "react";
import type { ItemView, PieceView } from "@/engine/contract";
import { useWorkspace } from "../state/context";
import type { WantedFate } from "../state/fates";
import { sideWord } from "../state/sides";
import { CARD_WIDTH, PieceCard } from "./piece-card";

/** The cards of the pieces, side by side. By itself: while it is scrolled, the rest of the tray has nothing to do. */
export function PieceStrip({
  pieces,
  items,
  asked,
  fresh,
  nextGroup,
  none,
  onFate,
  onPick,
}: {
  pieces: readonly PieceView[];
  items: Items;
  /** The keys of those that are asked about, and of those that are new. */
  asked: ReadonlySet<string>;
  fresh: ReadonlySet<string>;
  nextGroup: string;
  /** What is said where there are none. */
  none: string;
  onFate(key: string, fate: WantedFate): void;
  onPick(key: string, upTo: boolean): void;
}) {
  // Only the cards in sight are there: hundreds would take longer to make than the pieces themselves.
  const strip = useRef<HTMLDivElement>(null);
  // The same while it is scrolled: for another one the places of all are worked out anew.
  const getItemKey = useCallback((i: number) => pieces[i]!.key, [pieces]);
  const row = useVirtualizer({
    horizontal: true,
    count: pieces.length,
    getScrollElement: () => strip.current,
    estimateSize,
    getItemKey,
    gap: GAP,
    overscan: 3,
  });
  const cards = row.getVirtualItems();
  const first = cards[0]?.index ? cards[0] : undefined;
  // What is picked in the view is brought into sight here.
  const selected = useWorkspace((state) => state.selected);
  const place = pieces.findIndex(({ key }) => key === selected);
  useEffect(() => {
    if (place >= 0) row.scrollToIndex(place, { align: "auto" });
  }, [place, row]);
  return (
    <div ref={strip} className="overflow-x-auto p-2">
      <ul className="flex" style={{ gap: GAP, width: pieces.length > 0 ? row.getTotalSize() : undefined }}>
        {first ? <li role="presentation" className="shrink-0" style={{ width: first.start - GAP }} /> : null}
        {cards.map(({ index }) => {
          const piece = pieces[index]!;
          return (
            <PieceCard
              key={piece.key}
              piece={piece}
              called={stockName(piece, items)}
              where={whereabouts(piece, items)}
              nextGroup={nextGroup}
              asked={asked.has(piece.key) ? "asked about" : fresh.has(piece.key) ? "new" : null}
              place={index + 1}
              of={pieces.length}
              onFate={onFate}
              onPick={onPick}
            />
          );
        })}
        {pieces.length === 0 ? <li className="p-3 text-soft">{none}</li> : null}
      </ul>
    </div>
  );
}

/** Pixels between cards. */
const GAP = 8;

const estimateSize = () => CARD_WIDTH;

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

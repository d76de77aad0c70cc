"use client";
import { DropdownMenu } from "radix-ui";
import type { PieceView } from "@/engine/contract";
import { Mark } from "../marks/marks";
import { formatArea, formatVolume } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import { like } from "../state/piece-filter";
import { freeGroup, toggled } from "../state/piece-picks";
import { useDecide } from "../state/use-decide";
import type { Hover } from "../state/workspace-store";
import { MenuItem } from "./menu-item";
import { PieceNumber } from "./piece-number";

const FATES = [
  ["keep", "Keep it"],
  ["scrap", "Scrap it"],
  ["group", "Join it into a group"],
] as const;

/** The menu at a place of the view while a division is open: the pieces that lie there, one behind the other, and what becomes of the nearest. */
export function PieceMenu({ pieces, hits }: { pieces: readonly PieceView[]; hits: readonly Hover[] }) {
  const set = useWorkspace((state) => state.set);
  const picks = useWorkspace((state) => state.pickedPieces);
  const unit = useJob((state) => state.job.units);
  const decide = useDecide();
  const there = [...new Set(hits.map(({ id }) => id))].flatMap((id) => pieces.find(({ key }) => key === id) ?? []);
  const [nearest] = there;
  if (!nearest) return null;
  const groups = pieces.flatMap(({ fate }) => fate.group ?? []);
  const point = (key: string) => set({ hover: { id: key, face: null } });
  return (
    <>
      <DropdownMenu.Label className="px-2 py-0.5 text-[0.75rem] text-soft">What lies here</DropdownMenu.Label>
      {there.slice(0, 12).map((piece) => (
        <MenuItem
          key={piece.key}
          onFocus={() => point(piece.key)}
          onSelect={() => set({ selected: piece.key, hover: null })}
        >
          <PieceNumber index={piece.index} />
          <Mark name={piece.fate.fate} width={13} height={13} />
          <span className="num">
            {piece.measures.volume !== null
              ? formatVolume(piece.measures.volume, unit)
              : formatArea(piece.measures.area, unit)}
          </span>
        </MenuItem>
      ))}
      <DropdownMenu.Separator className="my-1 h-px bg-line" />
      <DropdownMenu.Label className="px-2 py-0.5 text-[0.75rem] text-soft">
        Piece {nearest.index + 1}, the nearest
      </DropdownMenu.Label>
      {FATES.filter(([fate]) => fate !== nearest.fate.fate).map(([fate, words]) => (
        <MenuItem
          key={fate}
          onSelect={() =>
            decide((piece) =>
              piece.key !== nearest.key
                ? piece.fate
                : fate === "group"
                  ? { fate, group: groups[0] ?? freeGroup(groups) }
                  : { fate },
            )
          }
        >
          <Mark name={fate} width={13} height={13} />
          {words}
        </MenuItem>
      ))}
      <MenuItem onSelect={() => set({ pickedPieces: toggled(picks, nearest.key), pickedLast: nearest.key })}>
        {picks.has(nearest.key) ? "Leave it out of what is picked" : "Pick it with others"}
      </MenuItem>
      <MenuItem onSelect={() => set({ pieceFilter: like(nearest) })}>Show only those like it</MenuItem>
    </>
  );
}

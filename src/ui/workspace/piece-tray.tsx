"use client";
import { ArrowLeftRight } from "lucide-react";
import { useCallback, useMemo, useRef } from "react";
import type { Trouble } from "@/core/errors";
import type { ItemView, PieceView } from "@/engine/contract";
import { Button, Choice, Range } from "../controls/controls";
import { formatVolume } from "../settings/format";
import { useJob, useStores, useWorkspace } from "../state/context";
import { inverted, type WantedFate } from "../state/fates";
import { inOrder, isEvery, isShown } from "../state/piece-filter";
import { pickedTo, toggled } from "../state/piece-picks";
import { useDecide } from "../state/use-decide";
import type { ShownPieces } from "../state/workspace-store";
import { ComesOut } from "./comes-out";
import { FilterBar } from "./piece-filter";
import { PieceGroups } from "./piece-groups";
import { PicksBar } from "./piece-picks";
import { PieceStrip } from "./piece-strip";

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
      <PieceStrip
        pieces={visible}
        items={items}
        asked={asked}
        fresh={fresh}
        nextGroup={groups[0] ?? "Group 1"}
        none={`No piece is ${shown === "kept" ? "kept" : "scrapped"}.`}
        onFate={onFate}
        onPick={onPick}
      />
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

const NONE: readonly Trouble[] = [];
const NO_ITEMS: readonly ItemView[] = [];

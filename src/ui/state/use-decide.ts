import type { FateRule } from "@/core/seam";
import type { PieceView } from "@/engine/contract";
import { useStores } from "./context";
import { openRules, rulesFor, type WantedFate } from "./fates";

/** Gives pieces of the open step fates: those that are wanted of each, as it stands when it is asked. */
export function useDecide(): (wanted: (piece: PieceView) => WantedFate) => void {
  const { workspace } = useStores();
  return (wanted) => {
    const { editing, evaluation, setValues } = workspace.getState();
    const pieces = evaluation?.pieces;
    if (!editing || !pieces) return;
    const warnings = evaluation.steps.find(({ id }) => id === editing.step.id)?.warnings ?? [];
    const open = openRules((editing.step.fates ?? []) as FateRule[], warnings);
    setValues({ fates: rulesFor(pieces, wanted, open) });
  };
}

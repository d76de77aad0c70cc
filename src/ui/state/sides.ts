import type { FaceRef } from "@/core/references";
import type { KeepSide } from "@/core/seam";
import { type ItemView, isBodyView } from "@/engine/contract";

export type Sides = Readonly<Record<string, KeepSide>>;

/** What the side of a picked face is kept under. */
export const faceSideKey = (ref: FaceRef) => `face:${ref.face ?? ""}`;

/** The side that was chosen for a cutter: as it is called now, as it was called before, or for its step. */
function ownSide(sides: Sides, { id, was, step }: Pick<ItemView, "id" | "step" | "was">): KeepSide | undefined {
  const before = was.find((other) => sides[other] !== undefined);
  return sides[id] ?? (before === undefined ? sides[step] : sides[before]);
}

/** The side of a cutter that stays: as chosen for it, or for the step that it is named by, or as every cut begins. */
export function sideOf(sides: Sides, item: Pick<ItemView, "id" | "step" | "kind" | "was">): KeepSide {
  return ownSide(sides, item) ?? (item.kind === "solid" ? "out" : "front");
}

/** The sides that still belong to something once other things cut. */
export function sidesFor(sides: Sides, cutters: readonly ItemView[], faces: readonly FaceRef[]) {
  const kept: Record<string, KeepSide> = {};
  for (const cutter of cutters) {
    const side = ownSide(sides, cutter);
    if (side) kept[cutter.id] = side;
  }
  for (const ref of faces) {
    const side = sides[faceSideKey(ref)];
    if (side) kept[faceSideKey(ref)] = side;
  }
  return kept;
}

/** The sides without those of faces that cut no more. */
export function withoutFaces(sides: Sides, faces: readonly FaceRef[]): Sides {
  const still = new Set(faces.map(faceSideKey));
  return Object.fromEntries(Object.entries(sides).filter(([key]) => !key.startsWith("face:") || still.has(key)));
}

/** Whether a cutter has an inside, and which of its sides that is: of closed outlines the front, of closed sheets the back. */
export function insideOf(item: ItemView): "front" | "back" | "in" | null {
  if (item.kind === "solid") return "in";
  if (item.kind === "sketch") return item.regions.length > 0 ? "front" : null;
  return isBodyView(item) && item.measures.closed ? "back" : null;
}

/** The choices of sides that stay, in the words that fit the cutter. */
export function sideOptions(item: ItemView): { value: KeepSide; label: string }[] {
  const inside = insideOf(item);
  if (inside === "in")
    return [
      { value: "out", label: "Keep outside" },
      { value: "in", label: "Keep inside" },
    ];
  if (inside === null) return OPEN_SIDES;
  return [
    { value: inside === "front" ? "back" : "front", label: "Keep outside" },
    { value: inside, label: "Keep inside" },
    { value: "either", label: "Both" },
  ];
}

export const OPEN_SIDES: { value: KeepSide; label: string }[] = [
  { value: "front", label: "Keep front" },
  { value: "back", label: "Keep back" },
  { value: "either", label: "Both" },
];

/** Where a piece lies to a cutter, in words. */
export function sideWord(item: ItemView | undefined, side: string): string {
  const inside = item && insideOf(item);
  if (inside && inside !== "in" && (side === "front" || side === "back")) return side === inside ? "inside" : "outside";
  return { front: "in front of", back: "behind", in: "inside", out: "outside", both: "on both sides of" }[side] ?? side;
}

/** The other side than one: of both, one. */
export function otherSide(side: KeepSide, closed: boolean): KeepSide {
  const others: Record<KeepSide, KeepSide> = { front: "back", back: "front", in: "out", out: "in", either: "front" };
  return closed && side === "either" ? "out" : others[side];
}

/** The sides once that of one cutter is turned round. @param cutters all that cut, that one among them where it is an item. */
export function turnedRound(
  sides: Sides,
  cutter: string,
  cutters: readonly ItemView[],
  faces: readonly FaceRef[],
): Record<string, KeepSide> {
  const item = cutters.find(({ id }) => id === cutter);
  const now = item ? sideOf(sides, item) : (sides[cutter] ?? "front");
  return { ...sidesFor(sides, cutters, faces), [cutter]: otherSide(now, item?.kind === "solid") };
}

import { fail } from "../../errors";
import { type Body, has } from "../../items";
import { boxOf, volumeOf } from "../../kernel";
import type { Division, Knife } from "../../seam";
import { cellsOfPlanes } from "../../seam/cells";
import type { StepContext } from "../evaluation";

/** Beyond so many pieces nobody finds one, and a browser has no room for them. */
const MOST = 5000;

/** Fewer planes never divide a solid that fills its box into more: 30 of them make 4,526 parts at most. */
const FEW = 30;

/**
 * Planes that would divide the stock into more pieces than can be worked with are refused before it is tried: that could take an hour.
 * How many parts they divide its box into is exact; how many of these the stock has is taken from how much of its box it fills.
 * @throws SeamError `too-many-pieces`
 */
export function refuseMany(stock: readonly Body[], knives: readonly Knife[], context: StepContext): void {
  const planes = knives.flatMap(({ item }) => (has(item, "plane") ? [item] : []));
  if (planes.length <= FEW) return;
  const count = stock.reduce((sum, { kind, shape }) => {
    const box = kind === "solid" ? boxOf(shape) : null;
    if (!box) return sum;
    const [x, y, z] = box.max.map((most, k) => most - box.min[k]!) as [number, number, number];
    return sum + (cellsOfPlanes(planes, box, 20 * MOST) * volumeOf(shape)) / (x * y * z);
  }, 0);
  if (count > MOST) tellMany(`about ${rounded(count)}`, `These ${planes.length} planes`, stock, context);
}

/** @throws SeamError `too-many-pieces` where more pieces came out than can be worked with. */
export function refuseManyMade({ pieces }: Division, stock: readonly Body[], context: StepContext): void {
  if (pieces.length > MOST) tellMany(pieces.length.toLocaleString("en"), "These cutters", stock, context);
}

const rounded = (count: number) => Number(count.toPrecision(2)).toLocaleString("en");

function tellMany(count: string, who: string, stock: readonly Body[], { step, nameOf }: StepContext): never {
  const what = stock.length === 1 ? nameOf(stock[0]!.id) : "what is divided";
  return fail(
    "too-many-pieces",
    `${who} would divide ${what} into ${count} pieces; ${MOST.toLocaleString("en")} are the most that can be worked with. Leave some of them out, or divide in several steps.`,
    { step, bodies: stock.map(({ id }) => id), field: "cutters" },
  );
}

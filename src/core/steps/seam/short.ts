import { fail, type Repair, type Trouble } from "../../errors";
import { type Body, has } from "../../items";
import { type Division, type Knife, missesBy, reachesAny, type Shortfall, shortBy } from "../../seam";
import { formatLength } from "../../units";
import type { StepContext } from "../evaluation";

/**
 * Cutters that end inside the stock, or reach none of it: all are told at once, each by how much, and what may mend all of them
 * is offered as one repair.
 */
export function refuseShort(division: Division, stock: Body[], knives: Knife[], context: StepContext): void {
  const runsOn = (cutter: string) =>
    isFace(cutter) || knives.some(({ item }) => item.id === cutter && has(item, "drawn"));
  const isSheet = (cutter: string) =>
    knives.some(({ item }) => item.id === cutter && has(item, "skin") && !isFace(cutter));
  const shorts = worstOfEach(
    division.dangling.map((dangling) => shortBy(dangling, stock.find((body) => body.id === dangling.stock)!)),
  );
  const misses = knives
    .filter(({ item: { id } }) => !reachesAny(division, id) && !shorts.some(({ cutter }) => cutter === id))
    .map((knife) => missesBy(knife, othersThan(knife, stock)));
  if (shorts.length > 0) {
    const all = [...shorts, ...misses];
    fail("cutter-short", shortSentence(shorts, misses, context), {
      step: context.step,
      ...placesOf(all),
      ...(shorts.length === 1
        ? repairsOf(shorts[0]!, runsOn, isSheet, context.step)
        : repairsOfAll(shorts, runsOn, isSheet, context.step)),
    });
  }
  // One cutter of several that misses is worth a word, not a stop: the others still cut.
  if (misses.length < knives.length) for (const miss of misses) context.warn(missTrouble([miss], context));
  else if (misses.length > 0) {
    const { code, message, ...more } = missTrouble(misses, context);
    fail(code, message, more);
  }
}

/** Stock that is a cutter, too, does not divide itself. */
const othersThan = ({ item }: Knife, stock: readonly Body[]) => stock.filter(({ id }) => id !== item.id);

/** Of each cutter in each stock where it is shortest, in the order in which they are listed. */
function worstOfEach(shorts: readonly Shortfall[]): Shortfall[] {
  const worst = new Map<string, Shortfall>();
  for (const short of shorts) {
    const key = `${short.cutter}|${short.stock}`;
    const before = worst.get(key);
    if (!before || short.by > before.by) worst.set(key, short);
  }
  return [...worst.values()];
}

function placesOf(all: readonly Shortfall[]): Pick<Trouble, "bodies" | "at" | "places"> {
  const [first, ...more] = all.map(({ at }) => [...at] as [number, number, number]);
  return {
    bodies: [...new Set(all.flatMap(({ cutter, stock }) => [cutter, stock]))],
    at: first!,
    ...(more.length > 0 ? { places: more } : {}),
  };
}

/** Rounded up: a cutter that is made longer by what is said reaches. */
const atLeast = (by: number) => formatLength(Math.ceil(by * 1000) / 1000);

function shortSentence(shorts: readonly Shortfall[], misses: readonly Shortfall[], { nameOf }: StepContext): string {
  const [only] = shorts;
  const passing = misses.map((miss) => ` ${missWords(miss, nameOf)}.`).join("");
  if (shorts.length === 1) {
    const more = only!.by > 0 ? ` It has to reach ${atLeast(only!.by)} further.` : "";
    return `${nameOf(only!.cutter)} stops short inside ${nameOf(only!.stock)}.${more} Extend it, or use a workplane.${passing}`;
  }
  const each = shorts.map(
    ({ cutter, stock, by }) => `${nameOf(cutter)} inside ${nameOf(stock)}${by > 0 ? ` by ${atLeast(by)}` : ""}`,
  );
  const cutters = new Set(shorts.map(({ cutter }) => cutter)).size;
  const stop = cutters === 1 ? "A cutter stops short in several places" : `${cutters} cutters stop short`;
  return `${stop}: ${each.join("; ")}.${passing} Extend them, or use workplanes.`;
}

function missWords({ cutter, stock, how, by }: Shortfall, nameOf: StepContext["nameOf"]): string {
  return how === "misses"
    ? `${nameOf(cutter)} misses ${nameOf(stock)} by ${atLeast(by)}`
    : `${nameOf(cutter)} only touches the skin of ${nameOf(stock)}`;
}

function missTrouble(misses: readonly Shortfall[], { step, nameOf }: StepContext): Trouble {
  const [only] = misses as [Shortfall];
  const words = missWords(only, nameOf);
  const message =
    misses.length > 1
      ? `Nothing is divided: ${misses.map((miss) => missWords(miss, nameOf)).join("; ")}. Move them into the stock.`
      : only.how === "misses"
        ? `${words}: it divides nothing. Move one of them.`
        : `${words}, so it divides nothing. Move it into ${nameOf(only.stock)}.`;
  return { code: "cutter-misses", message, step, ...placesOf(misses) };
}

/** What may make a cutter reach: it is tried before it is offered, since only the step that made it knows what it can take. */
function repairsOf(
  { cutter, by }: Shortfall,
  runsOn: (cutter: string) => boolean,
  isSheet: (cutter: string) => boolean,
  seam: string,
): { repair?: Repair; others?: Repair[] } {
  if (runsOn(cutter)) return { repair: runOn([cutter], seam) };
  const onward = isSheet(cutter)
    ? [{ label: "Run the sheet on past all the stock", step: seam, set: { runSheets: true } }]
    : [];
  if (!canGrow(cutter) || by <= 0) return onward[0] ? { repair: onward[0] } : {};
  const step = stepOf(cutter);
  const more = Math.ceil(by + 1);
  return {
    repair: { label: `Extend it by ${formatLength(more)} more`, step, set: { extend: { add: more } } },
    others: [
      ...[1, 2].map((times) => ({
        label: `Draw it out ${formatLength(times * more)} further`,
        step,
        set: { distance: { add: times * more } },
      })),
      ...onward,
    ],
  };
}

/** One press for all: each sheet extended, or else drawn out, by what it lacks; drawn out both ways it gains half on each side. */
function repairsOfAll(
  shorts: readonly Shortfall[],
  runsOn: (cutter: string) => boolean,
  isSheet: (cutter: string) => boolean,
  seam: string,
): { repair?: Repair } {
  const lacks = new Map<string, number>();
  const running = shorts.map(({ cutter }) => cutter).filter(runsOn);
  if (running.length === shorts.length) return { repair: runOn(running, seam) };
  for (const { cutter, by } of shorts) {
    if (runsOn(cutter)) continue;
    if (!canGrow(cutter) || by <= 0) return allOn(shorts, runsOn, isSheet, seam);
    lacks.set(stepOf(cutter), Math.max(by, lacks.get(stepOf(cutter)) ?? 0));
  }
  const longer = [...lacks].map(([step, by]) => {
    const more = Math.ceil(by + 1);
    return { step, set: { extend: { add: more } }, or: [{ distance: { add: 2 * more } }] };
  });
  const changes = [...longer, ...(running.length > 0 ? [{ step: seam, set: { runOn: true } }] : [])];
  const [first, ...others] = changes;
  const label = others.length === 0 ? "Make it reach" : `Make all ${changes.length} reach`;
  return first ? { repair: { label, ...first, ...(others.length > 0 ? { with: others } : {}) } } : {};
}

/** All run on past the stock, where every one of them can be. */
function allOn(
  shorts: readonly Shortfall[],
  runsOn: (cutter: string) => boolean,
  isSheet: (cutter: string) => boolean,
  step: string,
): { repair?: Repair } {
  if (!shorts.every(({ cutter }) => runsOn(cutter) || isSheet(cutter))) return {};
  const others = shorts.some(({ cutter }) => runsOn(cutter)) ? { runOn: true } : {};
  return { repair: { label: "Run them on past all the stock", step, set: { runSheets: true, ...others } } };
}

/** What a cutting face is called in a division (`knivesOf`). */
const isFace = (cutter: string): boolean => cutter.startsWith("face:");

function runOn(cutters: readonly string[], step: string): Repair {
  const label = cutters.every(isFace)
    ? "Run the cutting faces on along their surfaces"
    : cutters.some(isFace)
      ? "Run the cutters on: faces along their surfaces, drawn lines straight"
      : "Run the open ends of the drawing straight on";
  return { label, step, set: { runOn: true } };
}

const canGrow = (cutter: string): boolean => cutter.endsWith(":sheet");
const stepOf = (cutter: string): string => cutter.split(":")[0]!;

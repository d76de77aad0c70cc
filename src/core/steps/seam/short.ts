import { fail, type Repair, type Trouble } from "../../errors";
import { type Body, has, type Item } from "../../items";
import { KernelFault } from "../../kernel";
import { type Division, type Knife, missesBy, reachesAny, type Shortfall, shortBy, shortOnSheet } from "../../seam";
import { formatLength } from "../../units";
import type { StepContext } from "../evaluation";

/** A cutter as its step lists it, and the seam step that runs it on. */
interface Origin {
  item: Item;
  seam: string;
}

/**
 * Cutters that end inside the stock, or reach none of it: all are told at once, each by how much, and what may mend all of them
 * is offered as one repair.
 * @param originOf of a cutter that is a copy, by id: what it is a copy of.
 */
export function refuseShort(
  division: Division,
  stock: Body[],
  knives: Knife[],
  context: StepContext,
  originOf: (cutter: string) => Origin = (cutter) => ({
    item: knives.find(({ item }) => item.id === cutter)!.item,
    seam: context.step,
  }),
): void {
  const bodyOf = (id: string) => stock.find((body) => body.id === id)!;
  const shorts = worstOfEach([
    ...division.dangling.map((dangling) => shortBy(dangling, bodyOf(dangling.stock))),
    ...division.slits.flatMap((slit) => shortOnSheet(slit, bodyOf(slit.stock)) ?? []),
  ]);
  const misses = knives
    .filter(({ item: { id } }) => !reachesAny(division, id) && !shorts.some(({ cutter }) => cutter === id))
    .map((knife) => missesBy(knife, othersThan(knife, stock)));
  // A closed skin goes through a sheet or not: where it ends within one, the two are too near to each other to be told apart.
  const torn = shorts.find(({ cutter }) => has(originOf(cutter).item, "closed"));
  if (torn) throw new KernelFault("A cut by a closed body ends within a sheet.", false, torn.at);
  if (shorts.length > 0) {
    const all = [...shorts, ...misses];
    fail("cutter-short", shortSentence(shorts, misses, context), {
      step: context.step,
      ...placesOf(all),
      ...repairsOf(shorts.map(({ cutter, by }) => ({ by, ...originOf(cutter) }))),
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

/** A cutter that stops short, by how much, mm. */
interface Lack extends Origin {
  by: number;
}

/** What may make cutters reach: it is tried before it is offered, since only the step that made one knows what it can take. */
function repairsOf(lacks: readonly Lack[]): { repair?: Repair; others?: Repair[] } {
  const [only] = lacks as [Lack];
  return lacks.length === 1 ? repairsOfOne(only) : repairsOfAll(lacks);
}

function repairsOfOne(lack: Lack): { repair?: Repair; others?: Repair[] } {
  const { item, by, seam } = lack;
  if (runsOn(lack)) return { repair: runOn([lack]) };
  const onward = isSheet(lack)
    ? [{ label: "Run the sheet on past all the stock", step: seam, set: { runSheets: true } }]
    : [];
  if (!canGrow(item.id) || by <= 0) return onward[0] ? { repair: onward[0] } : {};
  const step = stepOf(item.id);
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
function repairsOfAll(lacks: readonly Lack[]): { repair?: Repair } {
  const longer = new Map<string, number>();
  const running = lacks.filter(runsOn);
  if (running.length === lacks.length) return { repair: runOn(running) };
  for (const lack of lacks) {
    if (runsOn(lack)) continue;
    const { item, by } = lack;
    if (!canGrow(item.id) || by <= 0) return allOn(lacks);
    longer.set(stepOf(item.id), Math.max(by, longer.get(stepOf(item.id)) ?? 0));
  }
  const changes: Change[] = [...longer].map(([step, by]) => {
    const more = Math.ceil(by + 1);
    return { step, set: { extend: { add: more } }, or: [{ distance: { add: 2 * more } }] };
  });
  changes.push(...seamsOf(running).map((step) => ({ step, set: { runOn: true } })));
  return together(changes.length === 1 ? "Make it reach" : `Make all ${changes.length} reach`, changes);
}

/** All run on past the stock, where every one of them can be. */
function allOn(lacks: readonly Lack[]): { repair?: Repair } {
  if (!lacks.every((lack) => runsOn(lack) || isSheet(lack))) return {};
  const changes = seamsOf(lacks).map((step): Change => {
    const own = lacks.filter(({ seam }) => seam === step);
    return {
      step,
      set: { ...(own.some(isSheet) ? { runSheets: true } : {}), ...(own.some(runsOn) ? { runOn: true } : {}) },
    };
  });
  return together("Run them on past all the stock", changes);
}

type Change = Omit<Repair, "label" | "with">;

function together(label: string, [first, ...others]: readonly Change[]): { repair?: Repair } {
  return first ? { repair: { label, ...first, ...(others.length > 0 ? { with: others } : {}) } } : {};
}

/** The steps that run cutters on, each once. */
const seamsOf = (lacks: readonly Lack[]) => [...new Set(lacks.map(({ seam }) => seam))];

const runsOn = ({ item }: Lack): boolean => isFace(item.id) || has(item, "drawn");
const isSheet = ({ item }: Lack): boolean => has(item, "skin") && !isFace(item.id);

/** What a cutting face is called in a division (`knivesOf`). */
const isFace = (cutter: string): boolean => cutter.startsWith("face:");

function runOn(lacks: readonly Lack[]): Repair {
  const faces = lacks.map(({ item }) => isFace(item.id));
  const label = faces.every(Boolean)
    ? "Run the cutting faces on along their surfaces"
    : faces.some(Boolean)
      ? "Run the cutters on: faces along their surfaces, drawn lines straight"
      : "Run the open ends of the drawing straight on";
  const [first, ...others] = seamsOf(lacks).map((step) => ({ step, set: { runOn: true } }));
  return { label, ...first!, ...(others.length > 0 ? { with: others } : {}) };
}

const canGrow = (cutter: string): boolean => cutter.endsWith(":sheet");
const stepOf = (cutter: string): string => cutter.split(":")[0]!;

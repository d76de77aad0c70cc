import { fail, type Repair, type Trouble } from "../errors";
import { type Body, type Item, isBody } from "../items";
import { ITEM_KINDS } from "../items/kinds";
import type { Part, Step } from "../job";
import { bringsIn, stepType } from "../steps";
import type { Trace } from "../steps/evaluation";
import { Lineage } from "./lineage";
import { meaningOf } from "./pieces";
import { holds, replaced } from "./replaced";
import type { StepResult } from "./result";

/** An item on the bench, with the key of the result that holds it. */
export interface BenchItem {
  item: Item;
  name: string;
  key: string;
  /** The ids that it had before it was changed, the latest first. */
  was: string[];
  /** Steps that should have changed it, or what it was made of, and were not done: by id, in the order of the sheet. */
  lacks: string[];
}

export interface Live {
  item: Item;
  key: string;
}

/** What lies on the bench while a sheet is built: each item with its name, and where each that is gone went. */
export class Bench {
  private readonly live = new Map<string, Live>();
  private readonly madeBy = new Map<string, string[]>();
  private readonly usedBy = new Map<string, string>();
  private readonly names = new Map<string, string>();
  private readonly lacking = new Map<string, ReadonlySet<string>>();
  private readonly traces = new Map<string, Trace[][]>();
  /** What was found by guessing since they were last taken. */
  private notes: Trouble[] = [];
  readonly lineage = new Lineage((id) => this.live.has(id));
  /** Whether a person named anything of the part: most often nothing. */
  private readonly anyGiven: boolean;
  /** What the part says of its bodies, by their ids, in words. */
  private readonly mentions: ReadonlyMap<string, string>;

  /** @param nameElsewhere what an item of another part is called there. */
  constructor(
    private readonly part: Part,
    private readonly nameElsewhere: (part: string, item: string) => string | null = () => null,
  ) {
    this.anyGiven = Object.keys(part.names).length > 0;
    this.mentions = mentionsIn(part);
  }

  /** All items that are there. */
  all(): Live[] {
    return [...this.live.values()];
  }

  items(): BenchItem[] {
    return this.all().map(({ item, key }) => ({
      item,
      key,
      name: this.nameOf(item.id),
      was: [...this.lineage.earlier(item.id)],
      lacks: this.lacksOf([item.id]),
    }));
  }

  /** Takes away what a step used up and puts down what it made. */
  apply(step: Step, result: StepResult): void {
    for (const id of result.used) {
      this.live.delete(id);
      this.usedBy.set(id, step.id);
    }
    this.lineage.add(result.becomes ?? {});
    const taken = new Set<string>();
    if (result.made.length > 0) for (const id of this.live.keys()) taken.add(this.nameOf(id));
    for (const item of result.made) {
      this.live.set(item.id, { item, key: result.key });
      if ("from" in item.hint) this.lineage.from(item.id, item.hint.from);
      // What was changed is the same body still, and called as it was.
      const kept = result.used.includes(item.id) ? this.names.get(item.id) : undefined;
      this.names.set(item.id, kept ?? distinct(this.hintText(item, step), taken));
      taken.add(this.nameOf(item.id));
    }
    this.madeBy.set(
      step.id,
      result.made.map((item) => item.id),
    );
    if (result.traces) {
      this.traces.set(step.id, result.traces);
      this.placeMentions(step);
    }
  }

  /** Notes that a step was not done to what it should have changed. */
  missed(step: Step, refs: readonly string[]): void {
    for (const { item } of refs.flatMap((ref) => this.find(ref)))
      this.lacking.set(item.id, new Set([...(this.lacking.get(item.id) ?? []), step.id]));
  }

  /** The steps that any of some items lack, in the order of the sheet. */
  lacksOf(ids: readonly string[]): string[] {
    if (this.lacking.size === 0) return [];
    const missing = new Set(ids.flatMap((id) => [...(this.lacking.get(id) ?? [])]));
    return this.part.steps.flatMap(({ id }) => (missing.has(id) ? [id] : []));
  }

  /** What a step made lacks what the items lack that it was made of. */
  passOn(made: readonly Item[], lacks: readonly string[]): void {
    for (const { id } of made) {
      if (lacks.length > 0) this.lacking.set(id, new Set(lacks));
      else this.lacking.delete(id);
    }
  }

  /** What was guessed, or could not be placed, since it was last asked. */
  takeNotes(): Trouble[] {
    if (this.notes.length === 0) return [];
    const notes = new Map(this.notes.map((note) => [note.message, note] as const));
    this.notes = [];
    return [...notes.values()];
  }

  /** Names, looks, groups and notes that were given to pieces of a step go to what these are now, or are told. */
  private placeMentions(step: Step): void {
    for (const [id, what] of this.mentions) {
      if (stepOf(id) !== step.id || this.live.has(id)) continue;
      const meaning = this.meaningOf(id)!;
      if (meaning.how === "no-body") continue;
      if (meaning.how === "found") this.lineage.add({ [id]: meaning.id });
      if (meaning.how === "found" && !meaning.doubt) continue;
      this.notes.push({
        code: "mention-unclear",
        message:
          meaning.how === "found"
            ? `${this.nameOf(meaning.id)} has ${what}; faces have come over to it from another side, or gone there. Check it.`
            : `A piece that had ${what} cannot be told from the others any more. Give it again to the piece that is meant.`,
        step: step.id,
        bodies: meaning.how === "found" ? [meaning.id] : meaning.candidates,
      });
    }
  }

  private meaningOf(ref: string) {
    const step = stepOf(ref);
    const traces = this.traces.get(step);
    return traces ? meaningOf(ref.slice(step.length + 1), traces) : null;
  }

  /** What an item is called that nobody named: as its step was named, or as what it is made from or joined into is called. */
  private hintText({ hint }: Item, step: Step): string {
    if ("text" in hint) return hint.given || bringsIn(stepType(step.type)!) ? hint.text : (step.name ?? hint.text);
    if ("part" in hint) return this.nameElsewhere(hint.part, hint.item) ?? hint.item;
    return `${this.nameOf(hint.from)}${hint.suffix ? ` ${hint.suffix}` : ""}`;
  }

  /** What an item is called: by a person, or by the step that made it. */
  nameOf(id: string): string {
    // A face that cuts is an item of its step's own (`steps/seam/knives`), which nobody has ever named.
    if (id.startsWith("face:")) return "A cutting face";
    const given = this.part.names[id] ?? this.givenBefore(id);
    return given ?? this.names.get(id) ?? this.nameOfCopy(id) ?? id;
  }

  /** What a copy is called that a step made of something for its own work (`steps/shared/repeat`): by its place and what it is of. */
  private nameOfCopy(id: string): string | null {
    const [step, mark, ...rest] = id.split(":");
    if (rest.length === 0 || !this.part.steps.some((other) => other.id === step)) return null;
    const of = this.nameOf(rest.join(":")).replace(/^A /, "a ");
    return mark === "image" ? `The image of ${of}` : `Copy ${mark} of ${of}`;
  }

  /** The name that a piece was given under an id that it would have had before its stock was changed. */
  private givenBefore(id: string): string | undefined {
    if (!this.anyGiven) return undefined;
    const own = `${stepOf(id)}:`;
    const was = this.lineage.meant(id).find((before) => before.startsWith(own) && before in this.part.names);
    return was && this.part.names[was];
  }

  /** The number of a step on the sheet, from 1; 0 for none. */
  numberOf(step: string): number {
    return this.part.steps.findIndex((candidate) => candidate.id === step) + 1;
  }

  /** An item as a body. @throws SeamError when it is something else. */
  asBody(item: Item, step: Step): Body {
    if (!isBody(item))
      fail("not-a-body", `${this.nameOf(item.id)} is a ${ITEM_KINDS[item.kind].word}; pick a body here.`, {
        step: step.id,
        bodies: [item.id],
      });
    return item;
  }

  /** All that an item lives on in: itself, what it was joined into, what it was divided into. */
  heirsOf(id: string): Live[] {
    return this.all().filter(({ item }) => item.id === id || this.lineage.earlier(item.id).includes(id));
  }

  /** An item by its id, or the one body that it lives on in since. */
  private alive(id: string): Live | undefined {
    const now = this.lineage.now(id);
    return now === null ? undefined : this.live.get(now);
  }

  /** The live items that a reference means: an item by id, a piece by what it is known by, or all that a step made. */
  find(ref: string): Live[] {
    const exact = this.alive(ref);
    if (exact) return [exact];
    const made = this.madeBy.get(stepOf(ref)) ?? [];
    const alive = [...new Set(made.map((id) => this.alive(id)))].filter((entry) => entry !== undefined);
    if (!ref.includes(":")) return alive;
    const meaning = this.usedBy.has(ref) ? null : this.meaningOf(ref);
    if (meaning) {
      const found = meaning.how === "found" ? this.alive(meaning.id) : undefined;
      return found ? [found] : [];
    }
    // The one thing that a step makes now, unless it was one of several.
    return !this.usedBy.has(ref) && made.length === 1 && !made.includes(ref) && !ref.includes("~") ? alive : [];
  }

  /**
   * The items that a reference of a step means. @throws SeamError when there are none: what became of it.
   * @param elsewhere whether the step is of another part.
   */
  itemsOf(ref: string, step: Step, elsewhere = false): Live[] {
    const found = this.find(ref);
    if (found.length > 0) {
      this.noteDoubt(ref, found[0]!.item.id, step);
      return found;
    }
    const maker = stepOf(ref);
    const place = this.part.steps.findIndex((candidate) => candidate.id === maker);
    const here = this.numberOf(step.id) - 1;
    const user =
      this.usedBy.get(ref) ??
      this.madeBy
        .get(maker)
        ?.map((id) => this.usedBy.get(id))
        .find(Boolean);
    const meaning = user === undefined ? this.meaningOf(ref) : null;
    if (meaning?.how === "unclear") this.failUnclear(ref, meaning.candidates, step);
    const what = this.names.has(ref) ? this.nameOf(ref) : `“${ref}”`;
    if (user !== undefined)
      fail("body-used", `${what} was used up by step ${this.numberOf(user)}. Pick what that step made.`, {
        step: step.id,
        bodies: [ref],
      });
    if (place < 0)
      fail("body-unknown", `${what} is not made by any step of this sheet. Pick again.`, {
        step: step.id,
        bodies: [ref],
      });
    if (elsewhere && this.isHeld(place))
      fail(
        "body-held",
        `${what} is made by step ${place + 1}, behind the hold point there. Move the hold point past it.`,
        {
          step: step.id,
          bodies: [ref],
        },
      );
    if (!elsewhere && place >= here)
      fail("body-later", `${what} is made by step ${place + 1}, which comes later. Move that step above this one.`, {
        step: step.id,
        bodies: [ref],
      });
    fail("body-gone", `Step ${place + 1} no longer makes ${what}. Pick again.`, { step: step.id, bodies: [ref] });
  }

  /** Whether a step stands behind the hold point. */
  private isHeld(place: number): boolean {
    const hold = this.part.steps.findIndex(({ id }) => id === this.part.hold);
    return hold >= 0 && place > hold;
  }

  /** What a step picked is told where it was found and may be another: named by an older release, or with other faces now. */
  private noteDoubt(ref: string, id: string, step: Step): void {
    const meaning = ref === id || this.live.has(ref) ? null : this.meaningOf(ref);
    if (meaning?.how !== "found" || !meaning.doubt) return;
    const name = this.nameOf(id);
    this.notes.push({
      code: "piece-guessed",
      message:
        meaning.doubt === "older"
          ? `${name} was picked in an older release, which knew it by its place. Check that it is the one.`
          : `${name}, which was picked, has faces now that lay on another side, or has lost some to one. Check it.`,
      step: step.id,
      bodies: [id],
      ...repairWith(step, ref, id, "Keep the piece that was found"),
    });
  }

  private failUnclear(ref: string, candidates: readonly string[], step: Step): never {
    const made = this.numberOf(stepOf(ref));
    const there = candidates.filter((id) => this.live.has(id));
    const others = there.slice(0, 6).flatMap((id) => {
      const { repair } = repairWith(step, ref, id, `Take ${this.nameOf(id)}`);
      return repair ? [repair] : [];
    });
    fail(
      "piece-unclear",
      there.length > 0
        ? `The piece of step ${made} that was picked cannot be told any more: it may be ${there.map((id) => this.nameOf(id)).join(" or ")}. Pick it again.`
        : `Step ${made} no longer makes the piece that was picked. Pick again.`,
      { step: step.id, bodies: there, ...(others.length > 0 ? { others } : {}) },
    );
  }
}

/** A repair that makes a step name another item where it named one. */
function repairWith(step: Step, old: string, now: string, label: string): { repair?: Repair } {
  const field = Object.keys(step).find((key) => key !== "id" && key !== "type" && holds(step[key], old));
  if (!field) return {};
  return { repair: { label, step: step.id, set: { [field]: replaced(step[field], old, now) } } };
}

/** What a part says of its bodies, by their ids, in words. */
function mentionsIn({ names, looks, groups, notes }: Part): Map<string, string> {
  return new Map([
    ...notes.map(({ body }) => [body, "a note"] as const),
    ...groups.flatMap(({ name, bodies }) => bodies.map((id) => [id, `a place in “${name}”`] as const)),
    ...Object.keys(looks).map((id) => [id, "a look of its own"] as const),
    ...Object.entries(names).map(([id, name]) => [id, `the name “${name}”`] as const),
  ]);
}

/** A name that nothing on the bench has yet: the name itself, or with the next free number. */
function distinct(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name;
  let number = 2;
  while (taken.has(`${name} ${number}`)) number++;
  return `${name} ${number}`;
}

/** The step that made an item, from the item's id. */
export function stepOf(ref: string): string {
  return ref.split(":")[0]!;
}

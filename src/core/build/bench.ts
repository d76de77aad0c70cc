import { fail } from "../errors";
import type { Part, Step } from "../job";
import { type Body, type Item, isBody } from "../naming";
import { Lineage } from "./lineage";
import type { StepResult } from "./result";

/** An item on the bench, with the key of the result that holds it. */
export interface BenchItem {
  item: Item;
  name: string;
  key: string;
  /** The ids that it had before it was changed, the latest first. */
  was: string[];
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
  readonly lineage = new Lineage((id) => this.live.has(id));

  constructor(private readonly part: Part) {}

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
    }));
  }

  /** Takes away what a step used up and puts down what it made. */
  apply(step: Step, result: StepResult): void {
    for (const id of result.used) {
      this.live.delete(id);
      this.usedBy.set(id, step.id);
    }
    this.lineage.add(result.becomes ?? {});
    const taken = new Set([...this.live.keys()].map((id) => this.nameOf(id)));
    for (const item of result.made) {
      this.live.set(item.id, { item, key: result.key });
      if ("from" in item.hint) this.lineage.from(item.id, item.hint.from);
      this.names.set(item.id, distinct(this.hintText(item), taken));
      taken.add(this.nameOf(item.id));
    }
    this.madeBy.set(
      step.id,
      result.made.map((item) => item.id),
    );
  }

  private hintText({ hint }: Item): string {
    if ("text" in hint) return hint.text;
    return `${this.nameOf(hint.from)}${hint.suffix ? ` ${hint.suffix}` : ""}`;
  }

  /** What an item is called: by a person, or by the step that made it. */
  nameOf(id: string): string {
    const given = this.part.names[id] ?? this.givenBefore(id);
    return given ?? this.names.get(id) ?? id;
  }

  /** The name that a piece was given under an id that it would have had before its stock was changed. */
  private givenBefore(id: string): string | undefined {
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
      fail("not-a-body", `${this.nameOf(item.id)} is a ${item.kind}; pick a body here.`, {
        step: step.id,
        bodies: [item.id],
      });
    return item;
  }

  /** An item by its id, or the one body that it lives on in since. */
  private alive(id: string): Live | undefined {
    const now = this.lineage.now(id);
    return now === null ? undefined : this.live.get(now);
  }

  /** The live items that a reference means: an item by id, all that a step made, or the one thing it makes now. */
  find(ref: string): Live[] {
    const exact = this.alive(ref);
    if (exact) return [exact];
    const made = this.madeBy.get(stepOf(ref)) ?? [];
    const alive = [...new Set(made.map((id) => this.alive(id)))].filter((entry) => entry !== undefined);
    if (!ref.includes(":")) return alive;
    return !this.usedBy.has(ref) && made.length === 1 && !made.includes(ref) ? alive : [];
  }

  /** The items that a reference of a step means. @throws SeamError when there are none: what became of it. */
  itemsOf(ref: string, step: Step): Live[] {
    const found = this.find(ref);
    if (found.length > 0) return found;
    const maker = stepOf(ref);
    const place = this.part.steps.findIndex((candidate) => candidate.id === maker);
    const here = this.numberOf(step.id) - 1;
    const user =
      this.usedBy.get(ref) ??
      this.madeBy
        .get(maker)
        ?.map((id) => this.usedBy.get(id))
        .find(Boolean);
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
    if (place >= here)
      fail("body-later", `${what} is made by step ${place + 1}, which comes later. Move that step above this one.`, {
        step: step.id,
        bodies: [ref],
      });
    fail("body-gone", `Step ${place + 1} no longer makes ${what}. Pick again.`, { step: step.id, bodies: [ref] });
  }
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

import { fail, SeamError, type Trouble } from "../errors";
import { hashValue } from "../hash";
import { type Job, type Part, type Step, scopeOf } from "../job";
import { freeShape, KernelFault, type Shape } from "../kernel";
import { type Body, type Item, isBody } from "../naming";
import type { FieldProblems, Scope } from "../params";
import {
  fieldLabel,
  type Into,
  type PieceReport,
  resolveStep,
  type StepContext,
  type StepOutcome,
  stepType,
} from "../steps";
import type { ResultCache } from "./cache";
import { Lineage } from "./lineage";
import { type FoundReference, referencesOf } from "./references";
import type { StepResult } from "./result";

/** Changes when a release computes something differently, so that stored results of an older one are left alone. */
export const ENGINE_VERSION = "7";

export type StepState = "good" | "warned" | "failed" | "waiting" | "suppressed" | "held";

export interface StepReport {
  id: string;
  type: string;
  state: StepState;
  error?: Trouble;
  warnings: Trouble[];
  /** What it made, by item id. */
  made: string[];
  /** Which body each that it used up lives on in, where it is one: by item id. */
  becomes?: Record<string, string>;
  /** Milliseconds of computing; 0 when the result was at hand. */
  ms: number;
  key?: string;
}

/** An item on the bench, with the key of the result that holds it. */
export interface BenchItem {
  item: Item;
  name: string;
  key: string;
  /** The ids that it had before it was changed, the latest first. */
  was: string[];
}

export interface PartResult {
  steps: StepReport[];
  bench: BenchItem[];
  /** The bench as it was before the `upTo` step. */
  before?: BenchItem[];
  /** Pieces of the step that was asked for; their shapes belong to the caller. */
  pieces?: PieceReport[];
  /** The results used, for the cache to keep. */
  results: Map<string, StepResult>;
}

export interface EvaluateOptions {
  cache: ResultCache;
  /** The bytes of an imported file, by the file's id; undefined when it is not at hand. */
  file(id: string): Uint8Array | undefined;
  /** Build up to and including this step, as while it is edited, whatever the hold point says. */
  upTo?: string;
  /** The step whose pieces are wanted. */
  pieces?: string;
  onStep?(report: StepReport, done: number, total: number): void;
  /** Told how each picked face, edge and corner was found, by steps that are evaluated anew. */
  onReference?(found: FoundReference): void;
  /** A result that an earlier run stored, if there is one. */
  stored?(key: string): StepResult | undefined;
}

/**
 * Builds a part: its steps in order, each from the items that it names. A step whose own values and items are
 * unchanged is taken from the cache. A failing step leaves its items as they were; steps that need what it would
 * have made wait, the others go on.
 */
export function evaluatePart(job: Job, part: Part, options: EvaluateOptions): PartResult {
  const run = new Run(job, part, options);
  return run.all();
}

interface Live {
  item: Item;
  key: string;
}

class Run {
  private readonly live = new Map<string, Live>();
  private readonly madeBy = new Map<string, string[]>();
  private readonly usedBy = new Map<string, string>();
  private readonly lineage = new Lineage((id) => this.live.has(id));
  /** The steps that were done, as they were resolved, with what came of them. */
  private readonly done = new Map<string, { key: string; values: Step; result: StepResult }>();
  private readonly broken = new Set<string>();
  private readonly names = new Map<string, string>();
  private readonly results = new Map<string, StepResult>();
  private readonly scope: Scope;
  private pieces: PieceReport[] | undefined;

  constructor(
    private readonly job: Job,
    private readonly part: Part,
    private readonly options: EvaluateOptions,
  ) {
    this.scope = scopeOf(job, part);
  }

  all(): PartResult {
    const steps: StepReport[] = [];
    const end = this.options.upTo ?? this.part.hold;
    let held = false;
    let before: BenchItem[] | undefined;
    for (const step of this.part.steps) {
      const blank = { id: step.id, type: step.type, warnings: [], made: [], ms: 0 };
      let report: StepReport;
      if (step.id === this.options.upTo) before = this.bench();
      if (held) report = { ...blank, state: "held" };
      else if (step.suppressed) {
        this.broken.add(step.id);
        report = { ...blank, state: "suppressed" };
      } else report = this.one(step);
      steps.push(report);
      this.options.onStep?.(report, steps.length, this.part.steps.length);
      if (step.id === end) held = true;
    }
    return {
      steps,
      bench: this.bench(),
      results: this.results,
      ...(before ? { before } : {}),
      ...(this.pieces ? { pieces: this.pieces } : {}),
    };
  }

  private bench(): BenchItem[] {
    return [...this.live.values()].map(({ item, key }) => ({
      item,
      key,
      name: this.nameOf(item.id),
      was: [...this.lineage.earlier(item.id)],
    }));
  }

  private one(written: Step): StepReport {
    const { step, problems } = resolveStep(written, this.scope);
    const type = stepType(step.type)!;
    const started = performance.now();
    const report = { id: step.id, type: step.type, warnings: [] as Trouble[], made: [] as string[] };
    try {
      const needs = type.refs(step as never);
      const waits = needs.find((ref) => this.broken.has(stepOf(ref)) && this.find(ref).length === 0);
      if (waits !== undefined) {
        this.broken.add(step.id);
        const other = this.part.steps.find((candidate) => candidate.id === stepOf(waits));
        const why = other?.suppressed ? "which is left out" : "which could not be built";
        return {
          ...report,
          state: "waiting",
          ms: 0,
          error: { code: "waits", step: step.id, message: `Waits for step ${this.numberOf(stepOf(waits))}, ${why}.` },
        };
      }
      refuseProblems(problems, step);
      const named = needs.flatMap((ref) => this.itemsOf(ref, step));
      const items = type.needsAll?.(step as never) ? [...named, ...this.live.values()] : named;
      const files = (type.files?.(step as never) ?? []).map((id) => this.fileOf(id, step));
      const key = hashValue({
        engine: ENGINE_VERSION,
        step: step.id,
        type: step.type,
        values: type.resolved(step as never),
        refs: needs,
        repeats: (type.repeats?.(step as never) ?? []).map((id) => this.done.get(id)?.key ?? ""),
        items: items.map(({ item, key: from }) => [item.id, from]),
        files: files.map(({ sha256, name }) => [sha256, name]),
      });
      const wantsPieces = this.options.pieces === step.id;
      let result = this.options.cache.get(key) ?? (wantsPieces ? undefined : this.options.stored?.(key));
      if (result) this.options.cache.put(result);
      if (!result || wantsPieces) {
        const warnings: Trouble[] = [];
        const outcome = this.evaluate(step, warnings, wantsPieces);
        if (wantsPieces) this.pieces = outcome.pieces ?? [];
        if (result) for (const item of outcome.made) if (isBody(item)) freeShape(item.shape);
        const { made, used, becomes, tools } = outcome;
        if (result) for (const { shape } of tools ?? []) freeShape(shape);
        const more = { ...(becomes ? { becomes } : {}), ...(tools ? { tools } : {}) };
        result ??= { key, made, used, ...more, warnings, extras: new Map() };
        this.options.cache.put(result);
      }
      this.results.set(key, result);
      this.done.set(step.id, { key, values: step, result });
      this.apply(step, result);
      const ms = performance.now() - started;
      return {
        ...report,
        key,
        state: result.warnings.length > 0 ? "warned" : "good",
        warnings: result.warnings,
        made: result.made.map((item) => item.id),
        ...(result.becomes ? { becomes: result.becomes } : {}),
        ms,
      };
    } catch (cause) {
      this.broken.add(step.id);
      return { ...report, state: "failed", error: asTrouble(cause, step), ms: performance.now() - started };
    }
  }

  private evaluate(step: Step, warnings: Trouble[], wantsPieces: boolean): StepOutcome {
    const context: StepContext = {
      step: step.id,
      wantsPieces,
      items: (refs) => refs.flatMap((ref) => this.itemsOf(ref, step)).map(({ item }) => item),
      all: () => [...this.live.values()].map(({ item }) => item),
      bodies: (refs) => refs.flatMap((ref) => this.itemsOf(ref, step)).map(({ item }) => this.asBody(item, step)),
      nameOf: (id) => this.nameOf(id),
      earlier: (id) => this.lineage.earlier(id),
      toolsOf: (id) => this.toolsOf(id, step),
      ...referencesOf(
        step,
        (id) => this.asBody(this.itemsOf(id, step)[0]!.item, step),
        (trouble) => warnings.push(trouble),
        this.options.onReference,
      ),
      file: (id) => {
        const { name } = this.fileOf(id, step);
        const bytes = this.options.file(id);
        if (!bytes) fail("file-missing", `The file “${name}” is not here. Bring it in again.`, { step: step.id });
        return { name, bytes };
      },
      warn: (trouble) => warnings.push(trouble),
    };
    return stepType(step.type)!.evaluate(step as never, context);
  }

  private toolsOf(id: string, step: Step) {
    const number = this.numberOf(id);
    const found = this.done.get(id);
    if (!found)
      fail("step-gone", `Step ${number || "?"} is not built before this one. Pick another.`, { step: step.id });
    const { tools } = found.result;
    if (!tools)
      fail(
        "not-repeatable",
        `Step ${number} puts nothing into another body. Only what joins, cuts or keeps within can be repeated; repeat bodies as bodies.`,
        { step: step.id },
      );
    return { tools, into: found.values.into as Into };
  }

  private apply(step: Step, result: StepResult): void {
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

  private nameOf(id: string): string {
    const given = this.part.names[id] ?? this.givenBefore(id);
    return given ?? this.names.get(id) ?? id;
  }

  /** The name that a piece was given under an id that it would have had before its stock was changed. */
  private givenBefore(id: string): string | undefined {
    const own = `${stepOf(id)}:`;
    const was = this.lineage.meant(id).find((before) => before.startsWith(own) && before in this.part.names);
    return was && this.part.names[was];
  }

  private numberOf(step: string): number {
    return this.part.steps.findIndex((candidate) => candidate.id === step) + 1;
  }

  private fileOf(id: string, step: Step) {
    return (
      this.job.files.find((file) => file.id === id) ??
      fail("file-missing", "Pick the file to bring in.", { step: step.id })
    );
  }

  private asBody(item: Item, step: Step): Body {
    if (!isBody(item))
      fail("not-a-body", `${this.nameOf(item.id)} is a workplane; pick a body here.`, {
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
  private find(ref: string): Live[] {
    const exact = this.alive(ref);
    if (exact) return [exact];
    const made = this.madeBy.get(stepOf(ref)) ?? [];
    const alive = [...new Set(made.map((id) => this.alive(id)))].filter((entry) => entry !== undefined);
    if (!ref.includes(":")) return alive;
    return !this.usedBy.has(ref) && made.length === 1 && !made.includes(ref) ? alive : [];
  }

  private itemsOf(ref: string, step: Step): Live[] {
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

function stepOf(ref: string): string {
  return ref.split(":")[0]!;
}

/** The first number field that comes to nothing usable stops the step. */
function refuseProblems(problems: FieldProblems, step: Step): void {
  const [first] = Object.entries(problems);
  if (!first) return;
  const [field, problem] = first;
  fail("value", `${fieldLabel(step, field)}: ${problem.replace(/([^.?])$/, "$1.")}`, { step: step.id, field });
}

function asTrouble(cause: unknown, step: Step): Trouble {
  if (cause instanceof SeamError) return { step: step.id, ...cause.trouble };
  if (cause instanceof KernelFault) {
    if (cause.fatal) throw cause;
    return {
      code: "kernel",
      step: step.id,
      message: `The geometry could not be computed (${cause.message}). Change a value by a little, or check the bodies.`,
    };
  }
  throw cause;
}

/** Frees the shapes of piece reports. */
export function freePieces(pieces: readonly PieceReport[]): void {
  for (const { shape } of pieces) freeShape(shape as Shape);
}

import { fail, SeamError, type Trouble } from "../errors";
import { hashValue } from "../hash";
import { handlingOf } from "../items";
import { chainBetween, type Job, type Part, type Step, scopeOf } from "../job";
import { freeShape, KernelFault, type Shape } from "../kernel";
import type { FieldProblems, Scope } from "../params";
import { hearingStages, tellStage } from "../stage";
import { activeValues, bringsIn, fieldLabel, needsOf, resolveStep, stepType } from "../steps";
import type { PieceReport, StepContext, StepOutcome } from "../steps/evaluation";
import { evaluationOf } from "../steps/evaluations";
import type { Into } from "../steps/shared/into/declare";
import { Bench, type BenchItem, type Live, stepOf } from "./bench";
import type { ResultCache } from "./cache";
import { drawnThrough } from "./drawn-points";
import { named, worded } from "./late-names";
import { type FoundReference, referencesOf } from "./references";
import { withTriedRepairs } from "./repairs";
import type { StepResult } from "./result";
import { ENGINE_VERSION } from "./version";
import { weigh } from "./weigh";

export type StepState = "good" | "warned" | "failed" | "waiting" | "suppressed" | "held";

export interface StepReport {
  id: string;
  type: string;
  state: StepState;
  error?: Trouble;
  warnings: Trouble[];
  /** Steps that were not done to what it was made of: by id. */
  lacks?: string[];
  /** What it made, by item id. */
  made: string[];
  /** Which body each that it used up lives on in, where it is one: by item id. */
  becomes?: Record<string, string>;
  /** Milliseconds of computing; 0 when the result was at hand. */
  ms: number;
  key?: string;
}

export interface PartResult {
  steps: StepReport[];
  bench: BenchItem[];
  /** The bench as it was before the `upTo` step. */
  before?: BenchItem[];
  /** Pieces of the step that was asked for; their shapes belong to the caller. */
  pieces?: PieceReport[];
  /** The results used, for the cache to keep: those of parts that it brings something in from with them. */
  results: Map<string, StepResult>;
  /** What lies there, to be found by whoever names it. */
  sheet: Bench;
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
  /** Told what a step is at while it takes its time: which, and in words. */
  onStage?(step: string, words: string): void;
  /** Told how each picked face, edge and corner was found, by steps that are evaluated anew. */
  onReference?(found: FoundReference): void;
  /** Whether this is a trial of a repair: none is tried in it. */
  trial?: boolean;
  /** Another part of the job, built as it stands. @throws SeamError `part-circle`, `part-missing` */
  part?(id: string): PartResult;
  /** A result that an earlier run stored, if there is one. */
  stored?(key: string): StepResult | undefined;
}

/**
 * Builds a part: its steps in order, each from the items that it names. A step whose own values and items are
 * unchanged is taken from the cache. A failing step leaves its items as they were; steps that need what it would
 * have made wait, the others go on.
 */
export function evaluatePart(job: Job, part: Part, options: EvaluateOptions): PartResult {
  return new JobRun(job, options).build(part, options);
}

/** Builds all parts of a job over one cache, each after those that it brings something in from; by id, in the order of the job. */
export function evaluateJob(job: Job, options: Shared): Map<string, PartResult> {
  const run = new JobRun(job, options);
  return new Map(job.parts.map((part) => [part.id, run.take(part)] as const));
}

/** What goes for all parts of a job alike. */
type Shared = Pick<EvaluateOptions, "cache" | "file" | "stored" | "onStage">;

/** The parts of a job while some of them are built: each once. */
class JobRun {
  private readonly done = new Map<string, PartResult>();

  constructor(
    private readonly job: Job,
    private readonly options: Shared,
  ) {}

  /** A part as it stands, built when it is asked for the first time. */
  take(part: Part): PartResult {
    let result = this.done.get(part.id);
    if (!result) {
      const { cache, file, stored, onStage } = this.options;
      result = this.build(part, {
        cache,
        file,
        ...(stored ? { stored } : {}),
        ...(onStage ? { onStage } : {}),
      });
      this.done.set(part.id, result);
    }
    return result;
  }

  build(part: Part, options: EvaluateOptions): PartResult {
    return new Run(this.job, part, { ...options, part: (id) => this.other(id, part) }).all();
  }

  private other(id: string, from: Part): PartResult {
    // By the document alone, so that it is the same whichever part is built first.
    const chain = chainBetween(this.job, id, from.id)?.map((name) => `“${name}”`);
    if (chain)
      fail(
        "part-circle",
        chain.length === 1
          ? `${chain[0]} cannot bring in something of itself. Pick it directly.`
          : `A part cannot be made of what is made of it: “${from.name}” brings something in from ${chain.join(", and that from ")}. Take one of them out.`,
      );
    const part = this.job.parts.find((candidate) => candidate.id === id);
    if (!part)
      fail("part-missing", "The part that something is brought in from is no longer in the job. Pick another.");
    return this.take(part);
  }
}

class Run {
  private readonly bench: Bench;
  /** The steps that were done, as they were resolved, with what came of them. */
  private readonly done = new Map<string, { key: string; values: Step; result: StepResult }>();
  private readonly broken = new Set<string>();
  private readonly results = new Map<string, StepResult>();
  private readonly scope: Scope;
  /** The other parts that steps brought something in from. */
  private readonly others = new Map<string, PartResult>();
  private pieces: PieceReport[] | undefined;

  constructor(
    private readonly job: Job,
    private readonly part: Part,
    private readonly options: EvaluateOptions,
  ) {
    this.scope = scopeOf(job, part);
    this.bench = new Bench(part, (other, item) => this.others.get(other)?.sheet.nameOf(item) ?? null);
  }

  all(): PartResult {
    const steps: StepReport[] = [];
    const end = this.options.upTo ?? this.part.hold;
    let held = false;
    let before: BenchItem[] | undefined;
    for (const step of this.part.steps) {
      const blank = { id: step.id, type: step.type, warnings: [], made: [], ms: 0 };
      let report: StepReport;
      if (step.id === this.options.upTo) before = this.bench.items();
      if (held) report = { ...blank, state: "held" };
      else if (step.suppressed) {
        this.notDone(step);
        report = { ...blank, state: "suppressed" };
      } else {
        const { onStage } = this.options;
        report = hearingStages(onStage ? (words) => onStage(step.id, words) : null, () => this.one(step));
      }
      steps.push(report);
      this.options.onStep?.(report, steps.length, this.part.steps.length);
      if (step.id === end) held = true;
    }
    return {
      steps,
      bench: this.bench.items(),
      results: this.results,
      sheet: this.bench,
      ...(before ? { before } : {}),
      ...(this.pieces ? { pieces: this.pieces } : {}),
    };
  }

  private one(written: Step): StepReport {
    const { step, problems } = resolveStep(written, this.scope);
    const type = stepType(step.type)!;
    const work = evaluationOf(step.type)!;
    const started = performance.now();
    const report = { id: step.id, type: step.type, warnings: [] as Trouble[], made: [] as string[] };
    try {
      const { refs: needs, ...own } = needsOf(type, step);
      const waits = needs.find((ref) => this.broken.has(stepOf(ref)) && this.bench.find(ref).length === 0);
      if (waits !== undefined) {
        this.notDone(step);
        const other = this.part.steps.find((candidate) => candidate.id === stepOf(waits));
        const why = other?.suppressed ? "which is left out" : "which could not be built";
        return {
          ...report,
          state: "waiting",
          ms: 0,
          error: {
            code: "waits",
            step: step.id,
            message: `Waits for step ${this.bench.numberOf(stepOf(waits))}, ${why}.`,
          },
        };
      }
      refuseProblems(problems, step);
      const named = needs.flatMap((ref) => this.bench.itemsOf(ref, step));
      const items = type.needsAll?.(step as never) ? [...named, ...this.bench.all()] : named;
      const files = own.files.map((id) => this.fileOf(id, step));
      const elsewhere = this.elsewhere(own.elsewhere, step);
      const key = hashValue({
        engine: ENGINE_VERSION,
        step: step.id,
        type: step.type,
        version: type.version ?? 0,
        values: own.values,
        refs: needs,
        repeats: own.repeats.map((id) => this.done.get(id)?.key ?? ""),
        items: items.map(({ item, key: from }) => [item.id, from]),
        files: files.map(({ sha256, name }) => [sha256, name]),
        ...(elsewhere.items.length > 0 ? { elsewhere: elsewhere.items.map(({ item, key }) => [item.id, key]) } : {}),
      });
      const wantsPieces = this.options.pieces === step.id;
      let result = this.options.cache.get(key) ?? (wantsPieces ? undefined : this.options.stored?.(key));
      if (result) this.options.cache.put(result);
      if (!result || wantsPieces) {
        const warnings: Trouble[] = [];
        const outcome = this.evaluate(step, warnings, wantsPieces, elsewhere.items);
        try {
          const given = items.map(({ item }) => item);
          tellStage("weighing what was made");
          // What comes from a file is looked over as it is read, and told in words of its own.
          if (!bringsIn(type))
            weigh(step.id, outcome.made, given, work.weighed?.(step as never) === true, (trouble) =>
              warnings.push(trouble),
            );
        } catch (cause) {
          freeOutcome(outcome);
          throw cause;
        }
        if (wantsPieces) this.pieces = outcome.pieces ?? [];
        if (result) for (const item of outcome.made) handlingOf(item).free(item);
        const { made, used, becomes, tools, traces } = outcome;
        if (result) for (const { shape } of tools ?? []) freeShape(shape);
        const more = {
          ...(becomes ? { becomes } : {}),
          ...(tools ? { tools } : {}),
          ...(traces ? { traces } : {}),
        };
        result ??= { key, made, used, ...more, warnings, extras: new Map() };
        this.options.cache.put(result);
      }
      this.results.set(key, result);
      this.done.set(step.id, { key, values: step, result });
      const lacks = this.bench.lacksOf(items.map(({ item }) => item.id));
      // While things are called as they were when the step was done.
      const told = result.warnings.map((trouble) => this.worded(trouble));
      this.bench.apply(step, result);
      this.bench.passOn(result.made, elsewhere.lacking ? [...lacks, step.id] : lacks);
      const ms = performance.now() - started;
      const warnings = [...told, ...this.bench.takeNotes(), ...this.lackingNote(lacks, step), ...elsewhere.notes];
      return {
        ...report,
        key,
        state: warnings.length > 0 ? "warned" : "good",
        warnings,
        ...(lacks.length > 0 ? { lacks } : {}),
        made: result.made.map((item) => item.id),
        ...(result.becomes ? { becomes: result.becomes } : {}),
        ms,
      };
    } catch (cause) {
      this.notDone(step);
      this.bench.takeNotes();
      const error = this.worded(asTrouble(cause, step));
      return {
        ...report,
        state: "failed",
        error: this.options.trial ? error : this.tried(error),
        ms: performance.now() - started,
      };
    }
  }

  private worded(trouble: Trouble): Trouble {
    return worded(trouble, (id) => this.bench.nameOf(id));
  }

  /** A trouble with those of its repairs that mend it: each is tried before it is offered. */
  private tried(error: Trouble): Trouble {
    if (!error.repair && !error.others) return error;
    tellStage("trying what would mend it");
    const { cache, file } = this.options;
    return withTriedRepairs(error, this.job, this.part, (job, part, upTo) => {
      const { steps } = evaluatePart(job, part, { cache, file, upTo, trial: true });
      return steps;
    });
  }

  /** A step that was not done is not passed over: what it should have changed goes on without it, and says so. */
  private notDone(step: Step): void {
    this.broken.add(step.id);
    this.bench.missed(step, stepType(step.type)?.changes?.(activeValues(step) as never) ?? []);
  }

  /** Tells that a step goes on without others that could not be built. One that a person left out is no surprise. */
  private lackingNote(lacks: readonly string[], { id: step }: Step): Trouble[] {
    const failed = lacks.filter((id) => !this.part.steps.find((other) => other.id === id)?.suppressed);
    if (failed.length === 0) return [];
    const numbers = failed.map((id) => this.bench.numberOf(id)).join(", ");
    return [
      {
        code: "goes-without",
        message: `Built without step${failed.length > 1 ? "s" : ""} ${numbers}, which could not be done. Mend that first.`,
        step,
      },
    ];
  }

  /**
   * What a step names of other parts, with what is to be told of it: found by guessing, or made without a step that could not be
   * done. That is not kept with the step's result: it may become another while the result stays.
   */
  private elsewhere({ parts, items }: { parts: readonly string[]; items: readonly string[] }, step: Step) {
    const found: { items: Live[]; notes: Trouble[]; lacking: boolean } = { items: [], notes: [], lacking: false };
    for (const id of parts) {
      const other = this.options.part?.(id);
      if (!other) continue;
      this.others.set(id, other);
      for (const [key, result] of other.results) this.results.set(key, result);
      const { sheet } = other;
      const name = `“${this.job.parts.find((part) => part.id === id)!.name}”`;
      let live: Live[];
      try {
        live = items.flatMap((ref) => sheet.itemsOf(ref, step));
      } catch (cause) {
        if (!(cause instanceof SeamError)) throw cause;
        throw new SeamError({ ...cause.trouble, message: `In ${name}: ${cause.trouble.message}` });
      } finally {
        found.notes.push(...sheet.takeNotes().map((note) => ({ ...note, message: `In ${name}: ${note.message}` })));
      }
      found.items.push(...new Map(live.map((one) => [one.item.id, one])).values());
      const lacks = sheet.lacksOf(live.map(({ item }) => item.id));
      if (lacks.length === 0) continue;
      found.lacking = true;
      const steps = lacks.map((lack) => sheet.numberOf(lack)).join(", ");
      found.notes.push({
        code: "goes-without",
        message: `${name} was built without its step${lacks.length > 1 ? "s" : ""} ${steps}, and so is what was brought in.`,
        step: step.id,
      });
    }
    return found;
  }

  private evaluate(step: Step, warnings: Trouble[], wantsPieces: boolean, elsewhere: readonly Live[]): StepOutcome {
    const context: StepContext = {
      step: step.id,
      wantsPieces,
      items: (refs) => refs.flatMap((ref) => this.bench.itemsOf(ref, step)).map(({ item }) => item),
      all: () => this.bench.all().map(({ item }) => item),
      bodies: (refs) =>
        refs.flatMap((ref) => this.bench.itemsOf(ref, step)).map(({ item }) => this.bench.asBody(item, step)),
      nameOf: named,
      earlier: (id) => this.bench.lineage.earlier(id),
      drawnThrough: (face) => drawnThrough(this.part, face),
      toolsOf: (id) => this.toolsOf(id, step),
      ...referencesOf(
        step,
        (id) => this.bench.asBody(this.bench.itemsOf(id, step)[0]!.item, step),
        (trouble) => warnings.push(trouble),
        this.options.onReference,
      ),
      elsewhere: () => elsewhere.map(({ item }) => item),
      file: (id) => {
        const { name } = this.fileOf(id, step);
        const bytes = this.options.file(id);
        if (!bytes) fail("file-missing", `The file “${name}” is not here. Bring it in again.`, { step: step.id });
        return { name, bytes };
      },
      warn: (trouble) => warnings.push(trouble),
    };
    return evaluationOf(step.type)!.evaluate(step as never, context);
  }

  private toolsOf(id: string, step: Step) {
    const number = this.bench.numberOf(id);
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

  private fileOf(id: string, step: Step) {
    return (
      this.job.files.find((file) => file.id === id) ??
      fail("file-missing", "Pick the file to bring in.", { step: step.id })
    );
  }
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

/** Frees what a step made, where it is not taken. */
function freeOutcome({ made, tools, pieces }: StepOutcome): void {
  for (const item of [...made, ...(tools ?? [])]) handlingOf(item).free(item);
  freePieces(pieces ?? []);
}

/** Frees the shapes of piece reports. */
export function freePieces(pieces: readonly PieceReport[]): void {
  for (const { shape } of pieces) freeShape(shape as Shape);
}

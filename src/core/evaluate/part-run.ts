import { withDeviation } from "../deviation";
import { fail, SeamError, type Trouble } from "../errors";
import { hashText } from "../hash";
import { handlingOf, type Item } from "../items";
import { type Job, type LinkStep, linkOf, type Part, type Step, scopeOf } from "../job";
import { freeShape, KernelFault } from "../kernel";
import type { Scope } from "../params";
import { IDENTITY, isIdentity, numbersOf, type Transform } from "../place";
import type { Front } from "../seam";
import { hearingStages, tellStage } from "../stage";
import { activeValues, bringsIn, needsOf, resolveStep, stepType } from "../steps";
import type { DoneStep, PieceReport, StepContext, StepOutcome } from "../steps/evaluation";
import { evaluationOf } from "../steps/evaluations";
import { Bench, type BenchItem, type Live, stepOf } from "./bench";
import { broughtOf } from "./brought";
import { derived } from "./derived";
import { drawnThrough, drawsThroughPoints } from "./drawn-points";
import { freeOutcome } from "./free";
import { tokenOf } from "./held";
import { named, worded } from "./late-names";
import { referencesOf } from "./references";
import { withTriedRepairs } from "./repairs";
import type { StepResult } from "./result";
import { asTrouble, refuseProblems } from "./troubles";
import type { EvaluateOptions, PartResult, StepReport } from "./types";
import { ENGINE_VERSION } from "./version";
import { weigh } from "./weigh";
import { type Meanings, meaningsOf, notedFaces } from "./whereabouts";

/** What a part's run asks of the run of the whole job. */
export interface RunsBeside {
  /** What a step brings something in from. @throws SeamError `part-circle`, `part-missing`, `place-unknown` */
  source(link: LinkStep): Source;
  /** How the steps of a part come out when it is changed for trial. */
  trial(job: Job, part: Part, upTo: string): StepReport[];
}

/** Another part, built as it stands or as it was when something was taken of it. */
export interface Source {
  /** What the part is called. */
  name: string;
  result: PartResult;
  /** How what is drawn in it lies in the part that brings it in. */
  lies: Transform;
  /** Whether it was taken, and is no longer in the job. */
  isGone: boolean;
}

/** What a step names of another part, and how that lies in this one. */
interface Elsewhere {
  items: Live[];
  /** What a reference means. @throws SeamError */
  of(ref: string): readonly Live[];
  lies: Transform;
}
const NOTHING: Elsewhere = { items: [], of: () => [], lies: IDENTITY };

/** What a reference of a step meant when it was done. */
type Meant = ReadonlyMap<string, readonly Live[]>;

/** What a step works on, for a picture of it before it is done. */
type Plain = Pick<PartResult, "parties" | "hollow" | "onWay">;

/** A step that was done, as it was resolved, with what came of it. */
interface Done {
  key: string;
  values: Step;
  result: StepResult;
  meant: Meant;
}

/** One part while its steps are done, in order. */
export class PartRun {
  private readonly bench: Bench;
  private readonly done = new Map<string, Done>();
  private readonly broken = new Set<string>();
  private readonly results = new Map<string, StepResult>();
  private readonly scope: Scope;
  /** The other parts that steps brought something in from. */
  private readonly others = new Map<string, PartResult>();
  private pieces: PieceReport[] | undefined;
  private fronts: Front[] | undefined;
  /** Most parts have no curve through points, and none of their faces is asked whether it comes from one. */
  private readonly hasCurves: boolean;

  constructor(
    private readonly job: Job,
    private readonly part: Part,
    private readonly options: EvaluateOptions,
    private readonly beside: RunsBeside,
  ) {
    this.scope = scopeOf(job, part);
    this.hasCurves = drawsThroughPoints(part);
    this.bench = new Bench(part, (other, item) => this.others.get(other)?.sheet.nameOf(item) ?? null);
  }

  all(): PartResult {
    const steps: StepReport[] = [];
    const end = this.options.upTo ?? this.part.hold;
    let held = false;
    let before: BenchItem[] | undefined;
    let meanings: Meanings | undefined;
    let plain: Plain = {};
    for (const step of this.part.steps) {
      const blank = { id: step.id, type: step.type, warnings: [], made: [], ms: 0 };
      let report: StepReport;
      if (step.id === this.options.upTo) {
        before = this.bench.items();
        meanings = meaningsOf(step, (id) => this.bench.find(id));
      }
      if (step.id === this.options.parties) {
        plain = this.plainOf(step);
        held = true;
      }
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
      noted: notedFaces(this.part.notes, (id) => this.bench.heirsOf(id)),
      ...(before ? { before } : {}),
      ...(meanings ? { meanings } : {}),
      ...plain,
      ...(this.pieces ? { pieces: this.pieces } : {}),
      ...(this.fronts ? { fronts: this.fronts } : {}),
    };
  }

  private one(written: Step): StepReport {
    const { step, problems } = resolveStep(written, this.scope);
    const type = stepType(step.type)!;
    const started = performance.now();
    const report = { id: step.id, type: step.type, warnings: [] as Trouble[], made: [] as string[] };
    try {
      const { refs: needs, ...own } = needsOf(type, step);
      const waits = needs.find((ref) => this.broken.has(stepOf(ref)) && this.bench.find(ref).length === 0);
      if (waits !== undefined) {
        this.notDone(step);
        return { ...report, state: "waiting", ms: 0, error: this.waitsFor(stepOf(waits), step) };
      }
      refuseProblems(problems, step);
      const meant: Meant = new Map(needs.map((ref) => [ref, this.bench.itemsOf(ref, step)]));
      const named = [...meant.values()].flat();
      const items = type.needsAll?.(step as never) ? [...named, ...this.bench.all()] : named;
      const files = own.files.map((id) => this.fileOf(id, step));
      const elsewhere = this.elsewhere(own.elsewhere.items, step);
      const key = hashText(
        JSON.stringify([
          ENGINE_VERSION,
          step.id,
          step.type,
          type.version ?? 0,
          own.values,
          needs,
          own.repeats.map((id) => this.done.get(id)?.key ?? ""),
          items.map(({ item, key: from }) => [item.id, from]),
          files.map(({ sha256, name }) => [sha256, name]),
          elsewhere.items.map(({ item, key: from }) => [item.id, from]),
          ...(isIdentity(elsewhere.lies) ? [] : [numbersOf(elsewhere.lies)]),
        ]),
      );
      const given = items.map(({ item }) => item);
      const result = this.resultOf(step, key, given, elsewhere);
      this.results.set(key, result);
      this.done.set(step.id, { key, values: step, result, meant });
      const lacks = this.bench.lacksOf(items.map(({ item }) => item.id));
      // While things are called as they were when the step was done.
      const warned = result.warnings.map((trouble) => this.worded(trouble));
      this.bench.apply(step, result);
      this.bench.passOn(result.made, elsewhere.lacking ? [...lacks, step.id] : lacks);
      // What was measured is of what it made.
      const told = result.told?.map((trouble) => this.worded(trouble));
      const ms = performance.now() - started;
      const warnings = [...warned, ...this.bench.takeNotes(), ...this.lackingNote(lacks, step), ...elsewhere.notes];
      return {
        ...report,
        key,
        state: warnings.length > 0 ? "warned" : "good",
        warnings,
        ...(told ? { told } : {}),
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
        error: this.options.brisk ? error : this.tried(error),
        ms: performance.now() - started,
      };
    }
  }

  /** What a step divides and by what, hollows or moves; nothing where it cannot be told, or would not be done. */
  private plainOf(written: Step): Plain {
    const { step, problems } = resolveStep(written, this.scope);
    if (step.suppressed || Object.keys(problems).length > 0) return {};
    const context = this.contextOf(
      step,
      (ref) => this.bench.itemsOf(ref, step),
      () => {},
    );
    try {
      const kind = evaluationOf(step.type)!;
      const parties = kind.parties?.(step as never, context);
      const hollow = kind.hollow?.(step as never, context);
      const onWay = kind.onWay?.(step as never, context);
      return { ...(parties ? { parties } : {}), ...(hollow ? { hollow } : {}), ...(onWay ? { onWay } : {}) };
    } catch (cause) {
      if (cause instanceof SeamError || cause instanceof KernelFault) return {};
      throw cause;
    } finally {
      this.bench.takeNotes();
    }
  }

  /** What comes of a step: as it is known by its key, or made now. */
  private resultOf(step: Step, key: string, given: readonly Item[], elsewhere: Elsewhere): StepResult {
    const { cache, stored } = this.options;
    const wantsPieces = this.options.pieces === step.id;
    const known = cache.get(key) ?? (wantsPieces ? undefined : stored?.(key));
    if (known) cache.put(known);
    if (known && !wantsPieces) return known;
    const warnings: Trouble[] = [];
    const { result: outcome, off } = withDeviation(() => this.evaluate(step, warnings, wantsPieces, elsewhere));
    try {
      tellStage("weighing what was made");
      // What comes from a file is looked over as it is read, and told in words of its own.
      if (!bringsIn(stepType(step.type)!)) {
        const whole = evaluationOf(step.type)!.weighed?.(step as never) === true;
        weigh(step.id, outcome.made, { given, off, weighed: whole }, (trouble) => warnings.push(trouble));
      }
    } catch (cause) {
      freeOutcome(outcome);
      throw cause;
    }
    const { made, used, becomes, tools, traces, told, pieces, fronts } = outcome;
    if (wantsPieces) this.pieces = pieces ?? [];
    if (wantsPieces && fronts) this.fronts = fronts;
    if (known) {
      // Done again for its pieces alone: what else came of it is at hand.
      for (const item of made) handlingOf(item).free(item);
      for (const { shape } of tools ?? []) freeShape(shape);
      return known;
    }
    const result: StepResult = {
      key,
      made,
      used,
      ...(becomes ? { becomes } : {}),
      ...(tools ? { tools } : {}),
      ...(traces ? { traces } : {}),
      ...(told ? { told } : {}),
      warnings,
      extras: new Map(),
    };
    cache.put(result);
    return result;
  }

  private waitsFor(id: string, step: Step): Trouble {
    const other = this.part.steps.find((candidate) => candidate.id === id);
    const why = other?.suppressed ? "which is left out" : "which could not be built";
    return { code: "waits", step: step.id, message: `Waits for step ${this.bench.numberOf(id)}, ${why}.` };
  }

  private worded(trouble: Trouble): Trouble {
    return worded(trouble, (id) => this.bench.nameOf(id));
  }

  /** A trouble with those of its repairs that mend it: each is tried before it is offered. */
  private tried(error: Trouble): Trouble {
    if (!error.repair && !error.others) return error;
    tellStage("trying what would mend it");
    return withTriedRepairs(error, this.job, this.part, this.beside.trial);
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
  private elsewhere(items: readonly string[], step: Step): Elsewhere & { notes: Trouble[]; lacking: boolean } {
    const link = linkOf(step);
    const found = { ...NOTHING, notes: [] as Trouble[], lacking: false };
    if (!link || link.part === "") return found;
    const { result, lies, isGone, ...source } = this.beside.source(link);
    this.others.set(link.part, result);
    for (const [key, made] of result.results) this.results.set(key, made);
    const { sheet } = result;
    const name = `“${source.name}”`;
    try {
      found.items = broughtOf(sheet, source.name, items, step);
    } finally {
      found.notes.push(...sheet.takeNotes().map((note) => ({ ...note, message: `In ${name}: ${note.message}` })));
    }
    found.lies = lies;
    found.of = (ref) => broughtOf(sheet, source.name, [ref], step);
    if (isGone)
      found.notes.push({
        code: "link-gone",
        message: this.job.parts.some(({ id }) => id === link.part)
          ? `${name} no longer makes what was brought in: it stays as it was taken last. Pick something else of it, or make it loose.`
          : `${name} is no longer in the job: what was brought in of it stays as it was taken last. Pick another part, or make it loose.`,
        step: step.id,
      });
    const lacks = sheet.lacksOf(found.items.map(({ item }) => item.id));
    if (lacks.length === 0) return found;
    found.lacking = true;
    const steps = lacks.map((lack) => sheet.numberOf(lack)).join(", ");
    found.notes.push({
      code: "goes-without",
      message: `${name} was built without its step${lacks.length > 1 ? "s" : ""} ${steps}, and so is what was brought in.`,
      step: step.id,
    });
    return found;
  }

  private evaluate(step: Step, warnings: Trouble[], wantsPieces: boolean, elsewhere: Elsewhere): StepOutcome {
    const context = this.contextOf(
      step,
      (ref) => this.bench.itemsOf(ref, step),
      (trouble) => warnings.push(trouble),
      { wantsPieces, elsewhere },
    );
    return evaluationOf(step.type)!.evaluate(step as never, context);
  }

  /** @param itemsOf what a reference means. @param more what is wanted of the step that is being done, beside its result. */
  private contextOf(
    step: Step,
    itemsOf: (ref: string) => readonly Live[],
    warn: (trouble: Trouble) => void,
    more: { wantsPieces: boolean; elsewhere: Elsewhere } = { wantsPieces: false, elsewhere: NOTHING },
  ): StepContext {
    const { wantsPieces, elsewhere } = more;
    return {
      step: step.id,
      wantsPieces,
      brisk: this.options.brisk === true,
      items: (refs) => refs.flatMap(itemsOf).map(({ item }) => item),
      all: () => this.bench.all().map(({ item }) => item),
      bodies: (refs) => refs.flatMap(itemsOf).map(({ item }) => this.bench.asBody(item, step)),
      nameOf: named,
      earlier: (id) => this.bench.lineage.earlier(id),
      drawnThrough: (face) => (this.hasCurves ? drawnThrough(this.part, face) : null),
      again: (id) => this.again(id, step, warn),
      ...referencesOf(step, (id) => this.bench.asBody(itemsOf(id)[0]!.item, step), warn, this.options.onReference),
      elsewhere: () => ({
        lies: elsewhere.lies,
        items: (refs) => [...new Map(refs.flatMap(elsewhere.of).map(({ item }) => [item.id, item])).values()],
        ...referencesOf(
          step,
          (id) => this.bench.asBody(elsewhere.of(id)[0]!.item, step),
          warn,
          this.options.onReference,
        ),
      }),
      file: (id) => {
        const { name } = this.fileOf(id, step);
        const bytes = this.options.file(id);
        if (!bytes) fail("file-missing", `The file “${name}” is not here. Bring it in again.`, { step: step.id });
        return { name, bytes };
      },
      warn,
      derived: (of, words, make) =>
        derived(this.options.cache, this.results, of, words, (trouble) => warn({ ...trouble, step: step.id }), make),
      held: (things, words, make) => {
        const { held } = this.options;
        if (held && wantsPieces) {
          const value = held.take(JSON.stringify([step.id, step.type, things.map(tokenOf), words]), make);
          return { value, done: () => {} };
        }
        const value = make();
        return { value, done: () => value.free() };
      },
    };
  }

  private again(id: string, step: Step, warn: (trouble: Trouble) => void): DoneStep {
    const number = this.bench.numberOf(id);
    const found = this.done.get(id);
    if (!found)
      fail("step-gone", `Step ${number || "?"} is not built before this one. Pick another.`, { step: step.id });
    const { values, result, meant } = found;
    const { tools = [] } = result;
    if (!stepType(values.type)!.repeats?.(values as never))
      fail(
        "not-repeatable",
        `Step ${number} puts nothing into another body. Only what joins, cuts, keeps within or divides can be repeated; repeat bodies as bodies.`,
        { step: step.id },
      );
    // What it named is looked for where it was found, and what was told of that then is not told again.
    const itemsOf = (ref: string) => meant.get(ref) ?? [];
    const context = this.contextOf(step, itemsOf, (trouble) => {
      if (!trouble.code.endsWith("-guessed")) warn(trouble);
    });
    return { id, type: values.type, number, values, tools, context };
  }

  private fileOf(id: string, step: Step) {
    return (
      this.job.files.find((file) => file.id === id) ??
      fail("file-missing", "Pick the file to bring in.", { step: step.id })
    );
  }
}

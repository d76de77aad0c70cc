import { type EvaluateOptions, evaluatePart, ResultCache } from "../../evaluate";
import { freePieces } from "../../evaluate/free";
import { isBody } from "../../items";
import { contains, distanceToPoint, dot, type Shape, shapeKind, sub, type Vec3 } from "../../kernel";
import type { FateRule } from "../../seam";
import { jobOf } from "../harness";
import type { Random } from "./random";
import { type Drawn, SCENES, type Scene } from "./scenes";

/** What came of one edit of one job: for each thing that was said of a piece, whether it stayed with it. */
export interface Verdict {
  scene: string;
  /** What was tried: a decision, a name, or a step that picks the piece. */
  what: "fate" | "name" | "step" | "rule";
  outcome: "right" | "asked" | "wrong" | "skipped";
  why: string;
  job: unknown;
}

type Steps = Record<string, unknown>[];

/** Steps that are put in before the cut: they change the stock and its id, and leave every mark where it is. */
function putIn(drawn: Drawn, random: Random): Steps {
  const at = drawn.steps.findIndex((step) => step.id === drawn.cut);
  const [x, y, z] = drawn.spare;
  const hole: Steps = [
    { id: "pin", type: "cylinder", diameter: 1.2, height: 400, at: [x, y, z - 200] },
    { id: "hole", type: "seam", preset: "trim", stock: [drawn.stock], cutters: ["pin"], keepCutters: false },
  ];
  const away: Steps = [{ id: "away", type: "box", size: [5, 5, 5], at: [500, 0, 0] }];
  return [...drawn.steps.slice(0, at), ...(random.chance(0.7) ? hole : away), ...drawn.steps.slice(at)];
}

function run(steps: Steps, more: Record<string, unknown> = {}, options: Partial<EvaluateOptions> = {}) {
  const job = jobOf([], { parts: [{ id: "part", name: "Part", steps, ...more }] });
  return { job, ...evaluatePart(job, job.parts[0]!, { cache: new ResultCache(), file: () => undefined, ...options }) };
}

/** Where a point lies to every solid and plane that cuts and stays, told by the shapes themselves. */
function liesTo({ bench }: ReturnType<typeof run>, { cut }: Drawn, at: Vec3): [string, boolean][] {
  return bench.flatMap(({ item }): [string, boolean][] => {
    if (item.id.startsWith(`${cut}:`)) return [];
    if (item.kind === "workplane") return [[item.id, dot(sub(at, item.origin), item.normal) > 0]];
    return isBody(item) && item.kind === "solid" ? [[item.id, contains(item.shape, at)]] : [];
  });
}

/** Gives all pieces that lie as one of them does a fate by a rule, edits the job, and looks whether it is still the same ones. */
export function tryRule(scene: Scene<unknown>, sizes: unknown, random: Random): Verdict | null {
  const before = scene.draw(sizes);
  const after = scene.draw(scene.edit(sizes, random));
  if (before.unsure || after.unsure) return null;
  const first = run(before.steps, {}, { pieces: before.cut });
  const pieces = first.pieces ?? [];
  try {
    const marked = pieces.flatMap(({ piece, shape }) =>
      markedIn([shape], before.marks)[0]!.length > 0 ? [{ piece, shape }] : [],
    );
    if (marked.length === 0) return null;
    const { sides } = random.pick(marked).piece;
    const alike = (one: Record<string, string>) => Object.keys(sides).every((id) => one[id] === sides[id]);
    const own = new Set(
      marked.filter(({ piece }) => alike(piece.sides)).flatMap(({ shape }) => markedIn([shape], before.marks)[0]!),
    );
    const others = Object.keys(before.marks).filter((mark) => !own.has(mark));
    const rules = [{ where: { sides }, fate: "group", group: "Chosen" }];
    const ruled = run(
      after.steps.map((entry) => (entry.id === after.cut ? { ...entry, rules } : entry)),
      {},
      { pieces: after.cut },
    );
    const report = ruled.steps.find(({ id }) => id === after.cut)!;
    const found = ruled.pieces ?? [];
    try {
      if (report.state === "failed" || report.state === "waiting") return null;
      // What the edit took to another side of a cutter is no longer what the rule was for.
      const stays = (mark: string) =>
        JSON.stringify(liesTo(first, before, before.marks[mark]!)) ===
        JSON.stringify(liesTo(ruled, after, after.marks[mark]!));
      const told = found.map(({ shape, fate }) => ({
        chosen: fate.group === "Chosen",
        marks: markedIn([shape], after.marks)[0]!.filter(stays),
      }));
      const marksOf = (chosen: boolean) => told.filter((one) => one.chosen === chosen).flatMap(({ marks }) => marks);
      const [hit, left] = [marksOf(true), marksOf(false)];
      const wrong = [...hit.filter((mark) => others.includes(mark)), ...left.filter((mark) => own.has(mark))];
      const why = `hit ${hit}; left ${left}; meant ${[...own]}`;
      return { scene: scene.name, what: "rule", outcome: wrong.length === 0 ? "right" : "wrong", why, job: ruled.job };
    } finally {
      freePieces(found);
    }
  } finally {
    freePieces(pieces);
  }
}

const holds = (shape: Shape, at: Vec3) =>
  shapeKind(shape) === "solid" ? contains(shape, at) : (distanceToPoint(shape, at)?.gap ?? 1) < 1e-6;

/** The marks that lie in each of a row of shapes. */
const markedIn = (shapes: readonly Shape[], marks: Record<string, Vec3>): string[][] =>
  shapes.map((shape) => Object.keys(marks).filter((mark) => holds(shape, marks[mark]!)));

/** Makes a job by chance, says something of one piece, edits the job by chance, and looks where what was said went. */
export function tryEdit(random: Random): Verdict[] {
  const scene: Scene<unknown> = random.pick(SCENES);
  return tryEditOf(scene, scene.sizes(random), random);
}

/** The same with a job that is given by its sizes. */
export function tryEditOf(scene: Scene<unknown>, sizes: unknown, random: Random): Verdict[] {
  const before = scene.draw(sizes);
  const drawn = scene.draw(scene.edit(sizes, random));
  const edited = { ...drawn, steps: random.chance(0.2) ? putIn(drawn, random) : drawn.steps };
  const verdict = (what: Verdict["what"], outcome: Verdict["outcome"], why: string, job: unknown): Verdict => ({
    scene: scene.name,
    what,
    outcome,
    why,
    job,
  });
  if (before.unsure || drawn.unsure) return [verdict("fate", "skipped", "nobody can say", null)];
  const first = run(before.steps, {}, { pieces: before.cut });
  const pieces = first.pieces ?? [];
  try {
    const marked = markedIn(
      pieces.map(({ shape }) => shape),
      before.marks,
    );
    const choices = marked.flatMap((list, i) => (list.length > 0 ? [i] : []));
    if (choices.length === 0) return [verdict("fate", "skipped", "nothing is marked", first.job)];
    const chosen = random.pick(choices);
    const { piece } = pieces[chosen]!;
    const own = marked[chosen]!;
    if (own.some((mark) => edited.vague?.includes(mark))) return [verdict("fate", "skipped", "nobody can say", null)];
    const others = marked.filter((_, i) => i !== chosen).flat();
    const body = first.bench.find(({ item }) => item.id === `${before.cut}:${piece.key}`)?.item.id;
    const rule = {
      piece: { kind: piece.kind, faces: piece.faces, mark: piece.mark },
      fate: "group",
      group: "Chosen",
    } as FateRule;
    const verdicts = [fate()];
    if (body) verdicts.push(name(body), step(body));
    return verdicts;

    /** Judges where something went: the bodies that have it, and whether the program asked. */
    function judge(
      what: Verdict["what"],
      taken: readonly Shape[],
      all: readonly Shape[],
      asked: string | null,
      job: unknown,
    ) {
      const now = markedIn(all, edited.marks);
      const homes = all.filter((_, i) => now[i]!.some((mark) => own.includes(mark)));
      const strangers = now.flatMap((list) =>
        list.some((mark) => own.includes(mark)) ? list.filter((mark) => others.includes(mark)) : [],
      );
      const clear = homes.length === 1 && strangers.length === 0;
      const said = `own ${own}, now in ${homes.length} with ${strangers}; ${taken.length} taken`;
      if (taken.length === 0)
        return verdict(
          what,
          asked ? "asked" : "wrong",
          `${said}; ${clear ? "one answer" : "no one answer"}; ${asked}`,
          job,
        );
      if (!clear) return verdict(what, asked ? "asked" : "wrong", `${said}; no one answer; ${asked}`, job);
      const right = taken.length === 1 && taken[0] === homes[0];
      return verdict(what, right ? "right" : "wrong", said, job);
    }

    function fate(): Verdict {
      const steps = edited.steps.map((entry) => (entry.id === edited.cut ? { ...entry, fates: [rule] } : entry));
      const after = run(steps, {}, { pieces: edited.cut });
      const report = after.steps.find(({ id }) => id === edited.cut)!;
      const found = after.pieces ?? [];
      try {
        if (report.state === "failed" || report.state === "waiting")
          return verdict("fate", "skipped", report.error?.message ?? "", after.job);
        const question = report.warnings.find(({ code }) => code === "check-pieces");
        return judge(
          "fate",
          found.filter((one) => one.fate.group === "Chosen").map(({ shape }) => shape),
          found.map(({ shape }) => shape),
          question?.message ?? null,
          after.job,
        );
      } finally {
        freePieces(found);
      }
    }

    function bodiesOf({ bench }: ReturnType<typeof run>) {
      return bench.flatMap(({ item, name: called }) =>
        isBody(item) ? [{ id: item.id, called, shape: item.shape }] : [],
      );
    }

    function name(id: string): Verdict {
      const after = run(edited.steps, { names: { [id]: "Chosen" } });
      const report = after.steps.find(({ id: other }) => other === edited.cut)!;
      if (report.state === "failed" || report.state === "waiting")
        return verdict("name", "skipped", report.error?.message ?? "", after.job);
      const made = bodiesOf(after).filter((one) => report.made.includes(one.id));
      const asked = report.warnings.find(({ code }) => code === "mention-unclear")?.message ?? null;
      return judge(
        "name",
        made.filter(({ called }) => called === "Chosen").map(({ shape }) => shape),
        made.map(({ shape }) => shape),
        asked,
        after.job,
      );
    }

    function step(id: string): Verdict {
      const lift = { id: "lift", type: "move", bodies: [id], by: [0, 0, 1000] };
      const after = run([...edited.steps, lift]);
      const report = after.steps.find(({ id: other }) => other === edited.cut)!;
      const lifted = after.steps.find(({ id: other }) => other === "lift")!;
      if (report.state === "failed" || report.state === "waiting")
        return verdict("step", "skipped", report.error?.message ?? "", after.job);
      if (lifted.state === "failed") return verdict("step", "asked", lifted.error!.message, after.job);
      // What was lifted is looked at where it came from.
      const plain = run(edited.steps);
      const all = bodiesOf(plain).filter((one) => report.made.includes(one.id));
      const left = new Set(bodiesOf(after).map((one) => one.id));
      const moved = all.filter((one) => !left.has(one.id));
      const whole = moved.length > 0 ? moved : all.filter((one) => lifted.made.includes(one.id));
      const outcome = judge(
        "step",
        whole.map(({ shape }) => shape),
        all.map(({ shape }) => shape),
        lifted.warnings[0]?.message ?? null,
        after.job,
      );
      return outcome;
    }
  } finally {
    freePieces(pieces);
  }
}

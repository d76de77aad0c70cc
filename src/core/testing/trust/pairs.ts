import same from "fast-deep-equal/es6";
import type { Manifold, ManifoldToplevel } from "manifold-3d";
import { ResultCache } from "../../evaluate";
import { cross, dot, length, type Shape, sub, tessellate, type Vec3 } from "../../kernel";
import { build, jobOf, volumeOfStep } from "../harness";
import type { Random } from "./random";

type Step = Record<string, unknown> & { id: string };
const AXES = ["x", "y", "z"] as const;
const round = (value: number) => Math.round(value * 1000) / 1000;

/** A simple solid of a size, standing about a place. */
function solid(id: string, random: Random, at: [number, number, number]): Step {
  const size = () => round(random.between(6, 50));
  switch (random.whole(0, 4)) {
    case 0:
      return { id, type: "box", size: [size(), size(), size()], at, anchor: "centre" };
    case 1:
      return { id, type: "cylinder", diameter: size(), height: size(), at, axis: random.pick(AXES) };
    case 2:
      return { id, type: "sphere", diameter: size(), at };
    case 3:
      return {
        id,
        type: "cone",
        diameter: size(),
        top: round(random.between(0, 20)),
        height: size(),
        at,
        axis: random.pick(AXES),
      };
    default: {
      const section = round(random.between(4, 14));
      return {
        id,
        type: "torus",
        diameter: round(random.between(section * 1.6, 60)),
        section,
        at,
        axis: random.pick(AXES),
      };
    }
  }
}

const turned = (id: string, body: string, angle: number, axis: string): Step => ({
  id,
  type: "move",
  bodies: [body],
  turn: angle,
  axis,
});

/** Families of pairs, by how the two lie to each other. */
export const FAMILIES: Record<string, (random: Random) => Step[]> = {
  random(random) {
    const near = () => round(random.between(-20, 20));
    const steps = [solid("a", random, [0, 0, 0]), solid("b", random, [near(), near(), near()])];
    if (random.chance(0.5)) steps.push(turned("bm", "b", round(random.between(0, 360)), random.pick(AXES)));
    return steps;
  },
  tangent(random) {
    const [r, s] = [round(random.between(5, 20)), round(random.between(5, 20))];
    const lift = round(random.between(-10, 10));
    const apart = random.pick([r + s, Math.abs(r - s)]);
    return random.pick([
      () => [
        { id: "a", type: "cylinder", diameter: 2 * r, height: 40 },
        { id: "b", type: "cylinder", diameter: 2 * s, height: 40, at: [apart, 0, lift] },
      ],
      () => [
        { id: "a", type: "sphere", diameter: 2 * r },
        { id: "b", type: "sphere", diameter: 2 * s, at: [apart, 0, 0] },
      ],
      () => [
        { id: "a", type: "box", size: [2 * r, 2 * r, 2 * r], anchor: "centre" },
        { id: "b", type: "cylinder", diameter: 2 * s, height: 60, at: [r + s, lift / 4, -30] },
      ],
      () => [
        { id: "a", type: "box", size: [2 * r, 2 * r, 2 * r], anchor: "centre" },
        { id: "b", type: "sphere", diameter: 2 * s, at: [r - s, 0, 0] },
      ],
      () => [
        { id: "a", type: "torus", diameter: 50, section: 14 },
        { id: "b", type: "torus", diameter: 50, section: 14, at: [random.pick([36, 64, 0]), 0, random.pick([0, 14])] },
      ],
    ])();
  },
  coincident(random) {
    const size = round(random.between(8, 30));
    const other = round(random.between(8, 30));
    return random.pick([
      () => [
        { id: "a", type: "box", size: [size, size, size] },
        { id: "b", type: "box", size: [other, size, size], at: [(size + other) / 2, random.pick([0, size / 3]), 0] },
      ],
      () => [
        { id: "a", type: "cylinder", diameter: size, height: 30 },
        { id: "b", type: "cylinder", diameter: size, height: 30, at: [0, 0, random.pick([10, 30])] },
      ],
      () => [
        { id: "a", type: "sphere", diameter: size },
        { id: "b", type: "cylinder", diameter: size, height: 30 },
      ],
      () => [
        { id: "a", type: "torus", diameter: 50, section: 14 },
        { id: "b", type: "cylinder", diameter: 14, height: other, at: [25, 0, 0], axis: "y" },
      ],
      () => [
        { id: "a", type: "box", size: [size, size, size] },
        { id: "b", type: "cylinder", diameter: size, height: size, at: [0, 0, random.pick([0, size / 2])] },
      ],
    ])();
  },
  nearParallel(random) {
    const size = round(random.between(10, 40));
    const by = random.pick([1e-5, 1e-4, 1e-3, 1e-2, 0.1, 1]) * random.pick([1, -1]);
    const at = random.pick([0, size / 2, size]);
    return [
      { id: "a", type: "box", size: [size, size, size] },
      random.chance(0.6)
        ? { id: "b", type: "box", size: [2 * size, 2 * size, size], at: [0, 0, at] }
        : { id: "b", type: "cylinder", diameter: size, height: 60, at: [0, 0, -30] },
      turned("bm", "b", by, "y"),
    ];
  },
  nearlySame(random) {
    const same = solid("a", random, [0, 0, 0]);
    const by = random.pick([1e-6, 1e-5, 1e-4, 1e-3, 1e-2, 0.1]) * random.pick([1, -1]);
    const sizes = Object.keys(same).filter((key) => typeof same[key] === "number");
    return random.pick([
      () => [same, { ...same, id: "b" }, turned("bm", "b", by, random.pick(AXES))],
      () => [
        same,
        {
          ...same,
          id: "b",
          at: random.pick([
            [by, 0, 0],
            [0, by, 0],
            [0, 0, by],
          ]),
        },
      ],
      () => {
        const key = random.pick([...sizes, "at"]);
        return [same, { ...same, id: "b", [key]: key === "at" ? [by, by, 0] : (same[key] as number) + by }];
      },
    ])();
  },
  tinyOverlaps(random) {
    const size = round(random.between(8, 30));
    const over = random.pick([1e-6, 1e-5, 1e-4, 1e-3, 1e-2]) * random.pick([1, -1]);
    return [
      { id: "a", type: "box", size: [size, size, size], anchor: "centre" },
      random.pick([
        { id: "b", type: "box", size: [size, size / 2, size / 2], at: [size - over, 0, 0], anchor: "centre" },
        { id: "b", type: "cylinder", diameter: size, height: 2 * size, at: [size - over, 0, -size] },
        { id: "b", type: "sphere", diameter: size, at: [size - over, 0, 0] },
      ]),
    ];
  },
};

export interface PairVerdict {
  family: string;
  /** *told*: made, and said how far off it is. */
  outcome: "right" | "told" | "refused" | "wrong";
  why: string;
  steps: Step[];
}

/** Divides a pair by chance. */
export function tryPair(random: Random, engine: ManifoldToplevel): PairVerdict {
  const family = random.pick(Object.keys(FAMILIES));
  return holdPair(family, FAMILIES[family]!(random), engine);
}

/**
 * Divides the solids of steps "a" and "b" in all ways and holds what comes against what it must satisfy, and against fine
 * triangles.
 */
export function holdPair(family: string, steps: Step[], engine: ManifoldToplevel): PairVerdict {
  const verdict = (outcome: PairVerdict["outcome"], why = ""): PairVerdict => ({ family, outcome, why, steps });
  // One memory for all that is asked of them, as in a session: what two presets divide alike is divided once.
  const cache = new ResultCache();
  const alone = build(jobOf(steps), { cache });
  const shapeOf = (id: string) => alone.bodies.find((body) => body.id.startsWith(`${id}:`))!.shape;
  const volume = (id: string) => alone.reports.find((report) => report.id.startsWith(`${id}:`))!.volume!;
  const area = (id: string) => alone.reports.find((report) => report.id.startsWith(`${id}:`))!.area;
  const [a, b] = [volume("a"), volume("b")];
  const meshes = ["a", "b"].map((id) => meshOf(shapeOf(id), engine));
  const common = meshes[0]!.intersect(meshes[1]!).volume();
  // Triangles stand within this of the exact volumes, and so does what they have in common.
  const slack = 2 * (Math.abs(a - meshes[0]!.volume()) + Math.abs(b - meshes[1]!.volume())) + 1e-3;
  for (const mesh of meshes) mesh.delete();
  const bared = baredBy(steps, shapeOf("a"));
  const results = new Map<string, { volume: number; failed: string | null }>();
  /** How far off the program said that it is, at most: mm. */
  let told = 0;
  for (const preset of ["union", "intersect", "subtract", "split"]) {
    const both = preset === "union" || preset === "intersect";
    const roles = both ? { stock: ["a", "b"] } : { stock: ["a"], cutters: ["b"] };
    const built = build(jobOf([...steps, { id: "s", type: "seam", preset, ...roles }]), { cache });
    const { state, error } = built.step("s");
    if (state === "failed" && error!.code === "division-failed")
      return verdict("refused", `${preset}: ${error!.message}`);
    for (const { code, message } of built.step("s").warnings)
      if (code === "approximate") told = Math.max(told, mmIn(message));
    for (const report of built.reports) {
      if (report.id.startsWith("s:") && (!report.closed || !report.valid))
        return verdict("wrong", `${preset}: closed ${report.closed}, valid ${report.valid}`);
    }
    results.set(preset, { volume: volumeOfStep(built, "s"), failed: state === "failed" ? error!.code : null });
  }
  const of = (preset: string) => results.get(preset)!;
  const exact = 1e-6 * (a + b) + told * (area("a") + area("b"));
  const nothing = of("intersect").failed === "nothing-common";
  const shared = nothing ? 0 : of("intersect").volume;
  if (Math.abs(shared - common) > slack + exact)
    return verdict("wrong", `in common ${shared}, triangles say ${common}`);
  if (bared > 10 * exact && Math.abs(a - shared - bared) > 0.1 * bared)
    return verdict("wrong", `moved by so little, it bares ${bared}, and not ${a} − ${shared}`);
  if (Math.abs(of("union").volume - (a + b - shared)) > exact)
    return verdict("wrong", `union ${of("union").volume} is not ${a} + ${b} − ${shared}`);
  const { failed: idle, volume: rest } = of("subtract");
  if (idle === null && Math.abs(rest - (a - shared)) > exact)
    return verdict("wrong", `rest ${rest} is not ${a} − ${shared}`);
  if (idle === "nothing-left" && Math.abs(a - shared) > exact) return verdict("wrong", "nothing left, but there is");
  if (idle === "cutter-misses" && common > slack) return verdict("wrong", `said to miss, ${common} in common`);
  const split = of("split");
  if (split.failed === null && Math.abs(split.volume - a) > exact)
    return verdict("wrong", `pieces ${split.volume} are not ${a}`);
  return verdict(told > 0 ? "told" : "right", told > 0 ? `right to ${told} mm` : "");
}

/**
 * How much of a body is bared by the same body moved a little aside, mm³: by each piece of the skin what it moves along its normal,
 * on the side that it leaves. To the first order, which triangles of both bodies do not see. 0 where it was not moved so.
 */
function baredBy([a, b, ...more]: readonly Step[], shape: Shape): number {
  const alike =
    a && b && more.length === 0 && Object.keys(a).every((key) => /^(id|at)$/.test(key) || same(a[key], b[key]));
  if (!alike || !Array.isArray(a.at) || !Array.isArray(b.at)) return 0;
  const by = sub(b.at as unknown as Vec3, a.at as unknown as Vec3);
  if (length(by) > 0.02) return 0;
  const { positions, indices } = tessellate(shape, { linear: 0.01, angular: 0.1 });
  const corner = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!];
  let twice = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [p, q, r] = [corner(indices[t]!), corner(indices[t + 1]!), corner(indices[t + 2]!)];
    twice += Math.abs(dot(cross(sub(q, p), sub(r, p)), by)) / 2;
  }
  return twice / 2;
}

/** The deviation that a sentence tells: it is rounded up. */
export const mmIn = (message: string) => Number(/right to ([\d.]+) mm/.exec(message)![1]);

function meshOf(shape: Shape, engine: ManifoldToplevel): Manifold {
  const { positions, indices } = tessellate(shape, { linear: 0.01, angular: 0.1 });
  const mesh = new engine.Mesh({ numProp: 3, vertProperties: positions, triVerts: indices });
  mesh.merge();
  return engine.Manifold.ofMesh(mesh);
}

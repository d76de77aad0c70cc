import type { Manifold, ManifoldToplevel } from "manifold-3d";
import { contains, dot, innerPoint, type Shape, sub, tessellate, unit, type Vec3 } from "../../kernel";
import { build, jobOf } from "../harness";
import { mmIn } from "./pairs";
import type { Random } from "./random";

type Step = Record<string, unknown> & { id: string };

/** A cutter by its steps, with a part of space that it bounds: as triangles, and as a question about a point. */
interface Cutter {
  steps: Step[];
  /** How the seam lists it. */
  cutters?: string[];
  cutterFaces?: unknown[];
  inside(at: Vec3, shapeOf: (id: string) => Shape): boolean;
  mesh(engine: ManifoldToplevel, shapeOf: (id: string) => Shape): Manifold;
  /** How far the volume of its triangles may be off, as a part of the stock's. */
  rough: number;
}

/** mm: past all that is drawn. */
const FAR = 400;
const FACETS = 360;
/** Of a polygon of so many sides in a circle, what its area lacks: (2π/n)²/6. */
const LACKS = (2 * Math.PI) ** 2 / FACETS ** 2 / 6;

/** Sizes on a grid, so that faces lie in one another, touch and miss by nothing as often as not. */
function solidStep(id: string, random: Random, at: () => number[]): Step {
  const size = () => random.nice(6, 40, 2);
  const axis = random.pick(["x", "y", "z"]);
  return random.pick([
    () => ({ id, type: "box", size: [size(), size(), size()], at: at(), anchor: "centre" }),
    () => ({ id, type: "cylinder", diameter: size(), height: size(), axis, at: at() }),
    () => ({ id, type: "sphere", diameter: size(), at: at() }),
    () => ({ id, type: "cone", diameter: size(), top: random.pick([0, 4]), height: size(), at: at() }),
    () => ({ id, type: "torus", diameter: 24 + size(), section: random.nice(4, 12, 2), at: at() }),
  ])();
}

const somewhere = (random: Random) => () => [random.nice(-20, 20, 2), random.nice(-16, 16, 2), random.nice(-16, 16, 2)];

/** All points before a plane: a large block, turned there. */
function before(engine: ManifoldToplevel, through: Vec3, normal: Vec3): Manifold {
  return engine.Manifold.cube([2 * FAR, 2 * FAR, 2 * FAR], true).trimByPlane(
    normal as [number, number, number],
    dot(through, normal),
  );
}

const column = (engine: ManifoldToplevel, [x, y]: readonly number[], radius: number) =>
  engine.Manifold.cylinder(2 * FAR, radius, radius, FACETS, true).translate([x!, y!, 0]);

function cutterOf(id: string, random: Random): Cutter {
  const at = somewhere(random);
  return random.pick([
    (): Cutter => ({
      steps: [solidStep(id, random, at)],
      cutters: [id],
      inside: (point, shapeOf) => contains(shapeOf(id), point),
      mesh: (engine, shapeOf) => meshOf(shapeOf(id), engine),
      rough: 0,
    }),
    (): Cutter => {
      const level = random.chance(0.5);
      const through = level ? ([0, 0, random.nice(-14, 14, 2)] as Vec3) : (at() as unknown as Vec3);
      const any = () => random.between(-1, 1);
      const normal: Vec3 = level ? [0, 0, 1] : unit([any(), any(), any()]);
      return {
        steps: [{ id, type: "workplane", base: "normal", through, normal }],
        cutters: [id],
        inside: (point) => dot(sub(point, through), normal) > 0,
        mesh: (engine) => before(engine, through, normal),
        rough: 1e-9,
      };
    },
    // A short pin's side, run on.
    (): Cutter => {
      const [x, y] = at() as [number, number];
      const radius = random.nice(3, 15, 1);
      return {
        steps: [{ id, type: "cylinder", diameter: 2 * radius, height: 2, at: [x, y, 90] }],
        cutterFaces: [{ body: id, face: `${id}:side` }],
        inside: (point) => Math.hypot(point[0] - x, point[1] - y) < radius,
        mesh: (engine) => column(engine, [x, y], radius),
        rough: 2 * LACKS,
      };
    },
    // A circle drawn, an endless knife square to its plane.
    (): Cutter => {
      const [x, y] = at() as [number, number];
      const radius = random.nice(3, 15, 1);
      return {
        steps: [
          {
            id,
            type: "sketch",
            entities: [
              { id: "c", type: "point", x, y },
              { id: "k", type: "circle", centre: "c", radius },
            ],
          },
        ],
        cutters: [id],
        inside: (point) => Math.hypot(point[0] - x, point[1] - y) < radius,
        mesh: (engine) => column(engine, [x, y], radius),
        rough: 2 * LACKS,
      };
    },
    // A line drawn in the stock, run on.
    (): Cutter => {
      const [x, y] = at() as [number, number];
      const angle = random.pick([0, Math.PI / 2, random.between(0, 6.2)]);
      const way: Vec3 = [Math.cos(angle), Math.sin(angle), 0];
      const normal: Vec3 = [-way[1], way[0], 0];
      return {
        steps: [
          {
            id,
            type: "sketch",
            entities: [
              { id: "p", type: "point", x, y },
              { id: "q", type: "point", x: x + 5 * way[0], y: y + 5 * way[1] },
              { id: "l", type: "line", from: "p", to: "q" },
            ],
          },
        ],
        cutters: [id],
        inside: (point) => dot(sub(point, [x, y, 0]), normal) > 0,
        mesh: (engine) => before(engine, [x, y, 0], normal),
        rough: 1e-9,
      };
    },
  ])();
}

/** What came of one scene: the reason where it is no division, or what is wrong with it. */
export interface MixedVerdict {
  outcome: "right" | "refused" | "wrong";
  why: string;
  steps: Step[];
}

/** Divides a solid by cutters of mixed kinds, and holds each piece against the points and the triangles of those cutters. */
export function tryMixed(random: Random, engine: ManifoldToplevel): MixedVerdict {
  const stock = solidStep("a", random, () => [0, 0, 0]);
  const cutters = Array.from({ length: random.whole(1, 4) }, (_, i) => cutterOf(`k${i}`, random));
  const seam = {
    id: "s",
    type: "seam",
    stock: ["a"],
    cutters: cutters.flatMap((cutter) => cutter.cutters ?? []),
    cutterFaces: cutters.flatMap((cutter) => cutter.cutterFaces ?? []),
    runOn: true,
  };
  const steps = [stock, ...cutters.flatMap((cutter) => cutter.steps), seam];
  const verdict = (outcome: MixedVerdict["outcome"], why = ""): MixedVerdict => ({ outcome, why, steps });
  const built = build(jobOf(steps), { pieces: "s" });
  const alone = build(jobOf(steps.slice(0, -1)));
  const shapeOf = (id: string) => alone.bodies.find((body) => body.id.startsWith(`${id}:`))!.shape;
  const { state, error } = built.step("s");
  if (state === "failed") return verdict("refused", error!.code);
  const whole = alone.reports.find(({ id }) => id.startsWith("a:"))!.volume!;
  const pieces = built.pieces!.map(({ piece, shape }) => {
    const report = built.reports.find(({ id }) => id === `s:${piece.key}`)!;
    const at = innerPoint(shape);
    return { sides: JSON.stringify(piece.sides), report, at };
  });
  for (const { report } of pieces)
    if (!report.closed || (!report.valid && report.pinches.length === 0))
      return verdict("wrong", `closed ${report.closed}, valid ${report.valid}`);
  const parts = pieces.reduce((total, { report }) => total + report.volume!, 0);
  const within = pieces.reduce((total, { report }) => total + (report.volumeWithin ?? 0), 0);
  // What is not exact is told with how far off it is where faces meet: a skin as thick as that all over what bounds the pieces holds no more.
  const told = Math.max(
    0,
    ...built.step("s").warnings.flatMap(({ code, message }) => (code === "approximate" ? [mmIn(message)] : [])),
  );
  const skin = pieces.reduce((total, { report }) => total + report.area, 0);
  if (Math.abs(parts - whole) > 1e-6 * whole + within + told * skin)
    return verdict("wrong", `pieces are ${parts}, the whole ${whole}`);
  // By where a point of each piece lies to every cutter: the same wherever its sides are the same.
  const cells = new Map<string, { volume: number; where: boolean[]; sides: Set<string> }>();
  for (const { at, report, sides } of pieces) {
    if (!at) return verdict("wrong", "no point lies in a piece");
    if (!contains(shapeOf("a"), at)) return verdict("wrong", "a piece's point lies out of the stock");
    const where = cutters.map((cutter) => cutter.inside(at, shapeOf));
    const cell = cells.get(where.join()) ?? { volume: 0, where, sides: new Set<string>() };
    cell.volume += report.volume!;
    cell.sides.add(sides);
    cells.set(where.join(), cell);
  }
  for (const { sides } of cells.values()) if (sides.size > 1) return verdict("wrong", `one cell, sides ${[...sides]}`);
  const spoken = [...cells.values()].flatMap(({ sides }) => [...sides]);
  if (new Set(spoken).size < spoken.length) return verdict("wrong", "pieces of two cells have the same sides");
  const own = meshOf(shapeOf("a"), engine);
  const meshes = cutters.map((cutter) => cutter.mesh(engine, shapeOf));
  // Triangles of a solid stand within this of it, and so does what they cut.
  const off = (id: string, mesh: Manifold) =>
    Math.abs(mesh.volume() - (alone.reports.find((report) => report.id.startsWith(`${id}:`))?.volume ?? mesh.volume()));
  const slack =
    1e-3 +
    2 * off("a", own) +
    cutters.reduce(
      (sum, { rough, cutters: [id] = [] }, i) => sum + rough * whole + (id ? 2 * off(id, meshes[i]!) : 0),
      0,
    );
  // The engine frees nothing by itself.
  const made: Manifold[] = [own, ...meshes];
  const kept = (mesh: Manifold) => {
    made.push(mesh);
    return mesh;
  };
  const wrong = [...cells.values()].flatMap(({ volume, where }) => {
    const cell = where.reduce(
      (rest, inside, i) => kept(inside ? rest.intersect(meshes[i]!) : rest.subtract(meshes[i]!)),
      own,
    );
    const said = cell.volume();
    return Math.abs(said - volume) > slack ? [`a cell of ${volume}, triangles say ${said}`] : [];
  });
  for (const mesh of new Set(made)) mesh.delete();
  if (wrong[0]) return verdict("wrong", wrong[0]);
  return verdict("right");
}

function meshOf(shape: Shape, engine: ManifoldToplevel): Manifold {
  const { positions, indices } = tessellate(shape, { linear: 0.005, angular: 0.05 });
  const mesh = new engine.Mesh({ numProp: 3, vertProperties: positions, triVerts: indices });
  mesh.merge();
  return engine.Manifold.ofMesh(mesh);
}

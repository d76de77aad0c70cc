import type { Vec3 } from "../../kernel";
import type { Random } from "./random";

type Steps = Record<string, unknown>[];

/** A job of one cut, with points that go where the model goes: each says where a piece of it is, if it is made at all. */
export interface Drawn {
  steps: Steps;
  /** The seam whose pieces are decided on. */
  cut: string;
  /** The stock as the seam names it, and where a hole or a pad can be put into it without touching a mark. */
  stock: string;
  spare: Vec3;
  marks: Record<string, Vec3>;
  /** Marks of pieces that may be there still where the mark is not: what was said of those is not judged. */
  vague?: string[];
  /** The sizes are such that nobody can say what is which piece: nothing is judged. */
  unsure?: boolean;
}

/** A family of jobs: sizes by chance, edits of them by chance, and the job that they make. */
export interface Scene<P> {
  name: string;
  sizes(random: Random): P;
  edit(sizes: P, random: Random): P;
  draw(sizes: P): Drawn;
}

const point = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
const line = (id: string, from: string, to: string) => ({ id, type: "line", from, to });

interface Bar {
  length: number;
  at: number;
  slots: { x: number; wide: number; deep: number }[];
}

/** A bar cut through by blocks: pieces in a row, each between two cutters with names of their own. */
const bar: Scene<Bar> = {
  name: "a bar cut by blocks",
  sizes: (random) => ({
    length: random.nice(100, 160, 5),
    at: 0,
    slots: Array.from({ length: random.whole(1, 4) }, (_, i, of = 4) => ({
      x: -45 + (90 / of) * (i + 0.5),
      wide: random.nice(3, 9, 1),
      deep: 30,
    })),
  }),
  edit(sizes, random) {
    const next = structuredClone(sizes);
    const slot = random.pick(next.slots);
    random.pick([
      () => (slot.x += random.nice(-60, 60, 2.5)),
      () => (slot.wide = random.nice(2, 40, 2)),
      () => (slot.deep = random.pick([8, 30])),
      () => (next.at = random.nice(-40, 40, 5)),
      () => (next.length = random.nice(60, 200, 10)),
    ])();
    return next;
  },
  draw({ length, at, slots }) {
    // A mark stands half-way between cuts that follow each other in the list, and near each end.
    const bounds: [number, number][] = [
      [at - length / 2, slots[0]!.x - slots[0]!.wide / 2],
      ...slots.map(({ x, wide }, i): [number, number] => [
        x + wide / 2,
        i + 1 < slots.length ? slots[i + 1]!.x - slots[i + 1]!.wide / 2 : at + length / 2,
      ]),
    ];
    const marks: Record<string, Vec3> = {};
    bounds.forEach(([from, to], i) => {
      // However thin a piece is, it is there: without its mark, whoever finds it would be said to be wrong.
      const room = to - from;
      const off = Math.min(0.4, room / 2);
      if (room > 0.01) marks[`m${i}`] = [i === 0 ? from + off : i === slots.length ? to - off : (from + to) / 2, 0, 5];
    });
    return {
      steps: [
        { id: "bar", type: "box", size: [length, 20, 20], at: [at, 0, 0] },
        ...slots.map(({ x, wide, deep }, i) => ({
          id: `slot${i}`,
          type: "box",
          size: [wide, 60, deep],
          at: [x, 0, 22 - deep],
        })),
        { id: "cut", type: "seam", preset: "subtract", stock: ["bar"], cutters: slots.map((_, i) => `slot${i}`) },
      ],
      cut: "cut",
      stock: "bar",
      spare: [at - length / 2 + 4, 6, 0],
      marks,
    };
  },
};

interface Wave {
  pitch: number;
  count: number;
  shift: number;
  high: number;
  length: number;
  at: number;
}

/** A bar cut along a wave: lumps that nothing but their place tells apart. */
const wave: Scene<Wave> = {
  name: "a bar cut along a wave",
  sizes: (random) => ({
    pitch: random.nice(24, 36, 2),
    count: random.whole(2, 4),
    shift: 0,
    high: 22,
    length: 100,
    at: 0,
  }),
  edit(sizes, random) {
    const next = { ...sizes };
    random.pick([
      () => (next.shift += random.nice(-40, 40, 2)),
      () => (next.shift += random.pick([-1, 1]) * next.pitch),
      () => (next.pitch *= random.pick([0.9, 1.02, 1.1, 4 / 3, 1.5])),
      () => (next.high = random.nice(21, 26, 0.5)),
      () => (next.length = random.nice(70, 140, 5)),
      () => (next.at = random.nice(-30, 30, 4)),
    ])();
    return next;
  },
  draw({ pitch, count, shift, high, length, at }) {
    const xs = Array.from({ length: 2 * count + 13 }, (_, i) => (i - count - 6) * (pitch / 2) + shift);
    // In this plane X runs against the model's.
    const points = xs.map((x, i) => point(`p${i}`, -x, i % 2 === 0 ? high : -2));
    const marks: Record<string, Vec3> = {};
    const vague = xs.flatMap((x, i) => (Math.abs(Math.abs(x - at) - length / 2) < 0.4 * pitch ? [`m${i}`] : []));
    xs.forEach((x, i) => {
      // Where the wave is high a lump lies under it, where it is low one lies over it.
      if (Math.abs(x - at) < length / 2 - 0.2) marks[`m${i}`] = [x, 0, i % 2 === 0 ? 0.5 : 19.5];
    });
    return {
      steps: [
        { id: "bar", type: "box", size: [length, 20, 20], at: [at, 0, 0] },
        {
          id: "wave",
          type: "sketch",
          on: "zx",
          entities: [
            ...points,
            { id: "sp", type: "spline", points: points.map(({ id }) => id), form: "through", closed: false },
          ],
        },
        { id: "sheet", type: "extrude", sketch: ["wave"], as: "sheet", extent: "symmetric", distance: 40 },
        { id: "cut", type: "seam", preset: "split", stock: ["bar"], cutters: ["sheet"] },
      ],
      cut: "cut",
      stock: "bar",
      // Marks lie in the middle of the bar's width.
      spare: [at, 6, 10],
      marks,
      vague,
    };
  },
};

interface Discs {
  size: number;
  circles: { x: number; y: number; r: number }[];
}

/** A sheet cut by circles of one drawing: patches that their circles tell apart. */
const patches: Scene<Discs> = {
  name: "a sheet cut by circles",
  sizes: (random) => ({
    size: 120,
    circles: Array.from({ length: random.whole(2, 4) }, (_, i) => ({
      x: -42 + 28 * i,
      y: random.nice(-25, 25, 5),
      r: random.nice(5, 11, 1),
    })),
  }),
  edit(sizes, random) {
    const next = structuredClone(sizes);
    const circle = random.pick(next.circles);
    random.pick([
      () => (circle.x += random.nice(-60, 60, 4)),
      () => (circle.y = random.nice(-30, 30, 3)),
      () => (circle.r = random.nice(3, 20, 1)),
      () => (next.size = random.nice(90, 160, 10)),
    ])();
    return next;
  },
  draw({ size, circles }) {
    const marks: Record<string, Vec3> = { rest: [-size / 2 + 0.5, size / 2 - 0.5, 0] };
    circles.forEach(({ x, y, r }, i) => {
      // Where the middle is off the sheet, what is left of the disc is at the sheet's end.
      const inside = Math.max(-size / 2 + 0.3, Math.min(size / 2 - 0.3, x));
      if (Math.abs(x - inside) < r - 0.3) marks[`c${i}`] = [inside, y, 0];
    });
    return {
      steps: [
        {
          id: "line",
          type: "sketch",
          on: "zx",
          entities: [point("a", -size / 2, 0), point("b", size / 2, 0), line("l", "a", "b")],
        },
        { id: "sheet", type: "extrude", sketch: ["line"], as: "sheet", extent: "symmetric", distance: size },
        {
          id: "drawn",
          type: "sketch",
          entities: circles.flatMap(({ x, y, r }, i) => [
            point(`o${i}`, x, y),
            { id: `c${i}`, type: "circle", centre: `o${i}`, radius: r },
          ]),
        },
        { id: "cut", type: "seam", preset: "split", stock: ["sheet"], cutters: ["drawn"] },
      ],
      cut: "cut",
      stock: "sheet",
      spare: [size / 2 - 3, -size / 2 + 3, 0],
      marks,
    };
  },
};

interface Tube {
  outer: number;
  wall: number;
  bore: number;
  at: Vec3;
  boreAt: [number, number];
}

/** A tube with a bore across it: two plugs with the very same faces. */
const tube: Scene<Tube> = {
  name: "a bore across a tube",
  sizes: (random) => ({
    outer: random.nice(30, 50, 2),
    wall: random.nice(2, 5, 1),
    bore: random.nice(8, 16, 1),
    at: [0, 0, 0],
    boreAt: [0, 0],
  }),
  edit(sizes, random) {
    const next = structuredClone(sizes);
    random.pick([
      () => (next.bore = random.nice(5, 20, 1)),
      () => (next.wall = random.nice(1, 7, 0.5)),
      () => (next.outer = random.nice(26, 60, 2)),
      () => (next.boreAt = [random.nice(-30, 30, 3), random.nice(-4, 4, 1)]),
      () => (next.at = [random.nice(-20, 20, 5), 0, random.nice(-60, 60, 10)]),
    ])();
    return next;
  },
  draw({ outer, wall, bore, at, boreAt }) {
    const inner = outer / 2 - wall;
    const middle = outer / 2 - wall / 2;
    const aside = Math.abs(boreAt[1] - at[1]);
    const along = Math.abs(boreAt[0] - at[0]) + bore / 2;
    const up = Math.sqrt(Math.max(0, middle ** 2 - aside ** 2));
    // The marks go with the bore: above and below the tube's axis. Nearer to its side the plugs run into one.
    const marks: Record<string, Vec3> = {
      rest: [at[0] - 49.9, at[1], at[2] + middle],
      upper: [boreAt[0], boreAt[1], at[2] + up],
      lower: [boreAt[0], boreAt[1], at[2] - up],
    };
    const unsure = aside + bore / 2 > inner - 0.2 || along > 49;
    return {
      steps: [
        { id: "skin", type: "cylinder", diameter: outer, height: 100, at: [at[0] - 50, at[1], at[2]], axis: "x" },
        {
          id: "core",
          type: "cylinder",
          diameter: outer - 2 * wall,
          height: 120,
          at: [at[0] - 60, at[1], at[2]],
          axis: "x",
        },
        { id: "tube", type: "seam", preset: "subtract", stock: ["skin"], cutters: ["core"], keepCutters: false },
        { id: "bore", type: "cylinder", diameter: bore, height: 240, at: [boreAt[0], boreAt[1], -120] },
        { id: "cut", type: "seam", preset: "split", stock: ["tube"], cutters: ["bore"] },
      ],
      cut: "cut",
      stock: "tube",
      spare: [at[0] + 47, at[1], at[2]],
      marks,
      unsure,
    };
  },
};

interface Fork {
  prongs: { x: number; wide: number; high: number }[];
  level: number;
  lift: number;
}

/** A comb cut level: the tips that stand over the plane, of prongs with names of their own. */
const fork: Scene<Fork> = {
  name: "the prongs of a comb cut level",
  sizes: (random) => ({
    prongs: Array.from({ length: random.whole(2, 4) }, (_, i) => ({
      x: 20 * i,
      wide: random.nice(6, 12, 1),
      high: random.nice(24, 44, 2),
    })),
    level: random.nice(20, 36, 2) + 0.5,
    lift: 0,
  }),
  edit(sizes, random) {
    const next = structuredClone(sizes);
    const prong = random.pick(next.prongs);
    random.pick([
      () => (next.level = random.nice(4, 46, 2) + 0.5),
      () => (prong.high = random.nice(16, 46, 2)),
      () => (next.lift = random.nice(-12, 12, 2)),
      () => (prong.wide = random.nice(4, 14, 1)),
    ])();
    return next;
  },
  draw({ prongs, level, lift }) {
    const entities: Record<string, unknown>[] = [
      point("s0", -10, 0),
      point("s1", 20 * prongs.length - 10, 0),
      line("foot", "s0", "s1"),
    ];
    const corners: string[] = ["s0"];
    entities.push(point("s2", -10, 10));
    corners.push("s2");
    prongs.forEach(({ x, wide, high }, i) => {
      entities.push(point(`a${i}`, x - wide / 2, 10), point(`b${i}`, x - wide / 2, high));
      entities.push(point(`c${i}`, x + wide / 2, high), point(`d${i}`, x + wide / 2, 10));
      corners.push(`a${i}`, `b${i}`, `c${i}`, `d${i}`);
    });
    entities.push(point("s3", 20 * prongs.length - 10, 10));
    corners.push("s3", "s1");
    corners.slice(1).forEach((corner, i) => {
      entities.push(line(`l${i}`, corners[i]!, corner));
    });
    const marks: Record<string, Vec3> = { foot: [-9.5, 0, lift + 0.5] };
    prongs.forEach(({ x, high }, i) => {
      marks[`tip${i}`] = [x, 0, lift + high - 0.3];
    });
    return {
      steps: [
        {
          id: "drawn",
          type: "sketch",
          on: "zx",
          entities: entities.map((e) => (e.type === "point" ? { ...e, x: -(e.x as number) } : e)),
        },
        { id: "comb", type: "extrude", sketch: ["drawn"], extent: "symmetric", distance: 16 },
        { id: "lifted", type: "move", bodies: ["comb"], by: [0, 0, lift] },
        { id: "plane", type: "workplane", base: "xy", offset: level },
        { id: "cut", type: "seam", preset: "split", stock: ["comb"], cutters: ["plane"] },
      ],
      cut: "cut",
      stock: "comb",
      spare: [20 * prongs.length - 12, 6, lift],
      marks,
    };
  },
};

interface Ring {
  diameter: number;
  section: number;
  plank: number;
  at: Vec3;
  turned: number;
}

/** A ring cut by a plank: two or more pieces of one endless face. */
const ring: Scene<Ring> = {
  name: "a ring cut by a plank",
  sizes: (random) => ({
    diameter: random.nice(50, 70, 5),
    section: random.nice(8, 14, 1),
    plank: random.nice(6, 16, 2),
    at: [0, 0, 0],
    turned: 0,
  }),
  edit(sizes, random) {
    const next = structuredClone(sizes);
    random.pick([
      () => (next.plank = random.nice(4, 30, 2)),
      () => (next.diameter = random.nice(40, 90, 5)),
      () => (next.section = random.nice(6, 18, 1)),
      () => (next.at = [random.nice(-40, 40, 5), random.nice(-12, 12, 2), 0]),
      () => (next.turned = random.pick([15, 45, 90, 180])),
    ])();
    return next;
  },
  draw({ diameter, section, plank, at, turned }) {
    const r = diameter / 2;
    const y = -at[1];
    const marks: Record<string, Vec3> = {};
    // The plank lies along X: it cuts the ring on both sides of its middle. Turned half round, the ring is the same again, but
    // which side is which depends on what one goes by: that has to be asked.
    const x = Math.sqrt(Math.max(0, r * r - y * y));
    Object.assign(marks, {
      ...(turned >= 90 ? {} : { right: [at[0] + x, at[1] + y, 0], left: [at[0] - x, at[1] + y, 0] }),
      far: [at[0], at[1] + r, 0],
      near: [at[0], at[1] - r, 0],
    });
    return {
      steps: [
        { id: "ring", type: "torus", diameter, section, at },
        ...(turned ? [{ id: "turn", type: "move", bodies: ["ring"], axis: "z", turn: turned, about: at }] : []),
        { id: "plank", type: "box", size: [300, plank, 40], at: [0, 0, -20] },
        { id: "cut", type: "seam", preset: "split", stock: ["ring"], cutters: ["plank"] },
      ],
      cut: "cut",
      stock: "ring",
      spare: [at[0] + r * Math.sin(0.4), at[1] + r * Math.cos(0.4), -section],
      marks,
      unsure: r - section / 2 < plank / 2 + Math.abs(y) + 0.5,
    };
  },
};

interface Planes {
  size: [number, number, number];
  at: Vec3;
  planes: { base: "xy" | "yz" | "zx"; offset: number }[];
}

/** A block with a bore through it, cut by planes: pieces that their sides tell apart. */
const planes: Scene<Planes> = {
  name: "a block cut by planes",
  sizes: (random) => ({
    size: [random.nice(50, 80, 5), random.nice(50, 80, 5), random.nice(40, 60, 5)],
    at: [0, 0, -25],
    planes: Array.from({ length: random.whole(1, 3) }, (_, i) => ({
      base: (["xy", "yz", "zx"] as const)[i]!,
      offset: random.nice(-12, 12, 1) + 0.5,
    })),
  }),
  edit(sizes, random) {
    const next = structuredClone(sizes);
    const plane = random.pick(next.planes);
    random.pick([
      () => (plane.offset = random.nice(-45, 45, 3) + 0.5),
      () => (next.size[random.whole(0, 2)] = random.nice(30, 100, 5)),
      () => (next.at = next.at.map((value) => value + random.nice(-20, 20, 2)) as unknown as Vec3),
    ])();
    return next;
  },
  draw({ size, at, planes: cutters }) {
    const marks: Record<string, Vec3> = {};
    for (const x of [-1, 1])
      for (const y of [-1, 1])
        for (const z of [-1, 1])
          marks[`corner${x}${y}${z}`] = [
            at[0] + x * (size[0] / 2 - 0.2),
            at[1] + y * (size[1] / 2 - 0.2),
            at[2] + size[2] / 2 + z * (size[2] / 2 - 0.2),
          ];
    return {
      steps: [
        { id: "block", type: "box", size, at },
        ...cutters.map((plane, i) => ({ id: `plane${i}`, type: "workplane", ...plane })),
        { id: "cut", type: "seam", preset: "split", stock: ["block"], cutters: cutters.map((_, i) => `plane${i}`) },
      ],
      cut: "cut",
      stock: "block",
      spare: [at[0] + 6, at[1] - 7, at[2]],
      marks,
    };
  },
};

// biome-ignore lint/suspicious/noExplicitAny: sizes belong to their scene, and go from one of its functions to another.
export const SCENES: Scene<any>[] = [bar, wave, patches, tube, fork, ring, planes];

import { add, areaOf, cross, length, type Shape, scale, sub, turned, type Vec3 } from "../../kernel";
import { build, jobOf } from "../harness";
import type { Random } from "./random";

/** A solid by closed forms of its own: the program has no part in what is expected. */
interface Form {
  step: Record<string, unknown>;
  /** Signed distance of a place near the skin, mm: below 0 inside. */
  field(at: Vec3): number;
  /** Faces as the program names them, each as places with what area they stand for. */
  faces: Record<string, () => { at: Vec3; area: number }[]>;
}

/** Cells along each side of a face that is looked at. */
const FINE = 120;

/** The middles of cells of a face that runs over a square, with their areas by the cross product of its tangents. */
function cells(place: (u: number, v: number) => Vec3): { at: Vec3; area: number }[] {
  const found: { at: Vec3; area: number }[] = [];
  const half = 0.5 / FINE;
  for (let i = 0; i < FINE; i++)
    for (let j = 0; j < FINE; j++) {
      const [u, v] = [(i + 0.5) / FINE, (j + 0.5) / FINE];
      const across = sub(place(u + half, v), place(u - half, v));
      const along = sub(place(u, v + half), place(u, v - half));
      found.push({ at: place(u, v), area: length(cross(across, along)) });
    }
  return found;
}

const TURN = 2 * Math.PI;
const round = (r: number, u: number, z: number): Vec3 => [r * Math.cos(TURN * u), r * Math.sin(TURN * u), z];

/** Solids of given sizes, standing on the origin or about it. */
const FORMS = {
  cylinder: ([d, h]: number[]): Form => bar(d! / 2, d! / 2, h!, { type: "cylinder", diameter: d, height: h }),
  cone: ([d, h, t]: number[]): Form => bar(d! / 2, t! / 2, h!, { type: "cone", diameter: d, top: t, height: h }),
  sphere: ([d]: number[]): Form => ({
    step: { type: "sphere", diameter: d },
    field: (at) => length(at) - d! / 2,
    faces: {
      skin: () =>
        cells((u, v) => {
          const polar = Math.PI * (v - 0.5);
          return round((d! / 2) * Math.cos(polar), u, (d! / 2) * Math.sin(polar));
        }),
    },
  }),
  torus: ([d, , , s]: number[]): Form => ({
    step: { type: "torus", diameter: d, section: s },
    field: ([x, y, z]) => Math.hypot(Math.hypot(x, y) - d! / 2, z) - s! / 2,
    faces: {
      skin: () => cells((u, v) => round(d! / 2 + (s! / 2) * Math.cos(TURN * v), u, (s! / 2) * Math.sin(TURN * v))),
    },
  }),
  box: ([x, y, z]: number[]): Form => {
    const size = [x!, y!, z!];
    const faces = Object.fromEntries(
      [0, 1, 2].flatMap((i) =>
        [-1, 1].map((sign) => [
          `side:${"xyz"[i]}${sign < 0 ? "-" : "+"}`,
          () =>
            cells((u, v) => {
              const at = [0, 0, 0];
              at[i] = (sign * size[i]!) / 2;
              at[(i + 1) % 3] = (u - 0.5) * size[(i + 1) % 3]!;
              at[(i + 2) % 3] = (v - 0.5) * size[(i + 2) % 3]!;
              return at as unknown as Vec3;
            }),
        ]),
      ),
    );
    return {
      step: { type: "box", size, anchor: "centre" },
      field: (at) => Math.max(...at.map((value, i) => Math.abs(value) - size[i]! / 2)),
      faces,
    };
  },
};

/** A bar that narrows evenly, from z = 0 up. */
function bar(r: number, t: number, h: number, step: Record<string, unknown>): Form {
  const slope = (t - r) / h;
  const disc = (radius: number, z: number) => () => cells((u, v) => round(radius * v, u, z));
  return {
    step,
    field: ([x, y, z]) => Math.max((Math.hypot(x, y) - r - slope * z) / Math.hypot(1, slope), -z, z - h),
    faces: {
      side: () => cells((u, v) => round(r + slope * h * v, u, h * v)),
      "cap:base": disc(r, 0),
      "cap:end": disc(t, h),
    },
  };
}

export interface SheetVerdict {
  outcome: "right" | "told" | "refused" | "wrong";
  why: string;
  steps: Record<string, unknown>[];
}

/** mm: nearer to a skin than this, a place may be said to lie on either side of it, and nothing has to be told. */
const ON = 7e-5;
/** mm: nearer than this all over, two skins may be said only to touch. */
const TOUCHING = 1e-3;
/** How far an area may be off, as a part of the sheet: of cells that the line between the pieces runs through. */
const COARSE = 0.02;

/**
 * Divides a sheet taken off a solid by nearly the same solid, by chance: moved, turned or of another size by next to nothing, or shorter
 * besides. How much of it lies inside is known by closed forms.
 */
export function trySheetPair(random: Random): SheetVerdict {
  const kind = random.pick(Object.keys(FORMS) as (keyof typeof FORMS)[]);
  const value = (low: number, high: number) => Math.round(random.between(low, high) * 1000) / 1000;
  const sizes = [value(20, 50), value(12, 40), value(4, 18), value(4, 14)];
  const by = random.pick([1e-6, 1e-5, 1e-4, 1e-3, 1e-2, 0.1]) * random.pick([1, -1]);
  const axis = random.whole(0, 2);
  const way = [0, 1, 2].map((i) => (i === axis ? 1 : 0)) as unknown as Vec3;
  const change = random.pick(["moved", "turned", "sized"]);
  const changed = sizes.map((size, i) => size + (change === "sized" && i === axis ? by : 0));
  if (random.chance(0.4)) changed[1] = changed[1]! - 7.5;
  const sheet = FORMS[kind](sizes);
  const other = FORMS[kind](changed);
  const names = Object.keys(sheet.faces);
  const picked = random.chance(0.5) ? names : [random.pick(names)];
  const angle = (by * Math.PI) / 180;
  const back = (at: Vec3): Vec3 =>
    change === "moved" ? add(at, scale(way, -by)) : change === "turned" ? turned(at, way, -angle) : at;
  const steps = [
    { id: "a", ...sheet.step },
    {
      id: "t",
      type: "offset-sheet",
      distance: 0,
      faces: picked.map((name) => ({ body: "a", face: `a:${name}` })),
    },
    { id: "b", ...other.step },
    ...(change === "sized"
      ? []
      : [
          {
            id: "m",
            type: "move",
            bodies: ["b"],
            ...(change === "moved" ? { by: scale(way, by) } : { turn: by, axis: "xyz"[axis] }),
          },
        ]),
    { id: "s", type: "seam", preset: "split", stock: ["t"], cutters: ["b"] },
  ];
  const places = picked.flatMap((name) => sheet.faces[name]!());
  return holdSheet(
    steps,
    places.map(({ at, area }) => ({ depth: other.field(back(at)), area })),
  );
}

function holdSheet(steps: Record<string, unknown>[], places: readonly { depth: number; area: number }[]): SheetVerdict {
  const verdict = (outcome: SheetVerdict["outcome"], why = ""): SheetVerdict => ({ outcome, why, steps });
  const built = build(jobOf(steps), { pieces: "s" });
  const broken = built.steps.find((step) => step.id !== "s" && step.state === "failed");
  if (broken) throw new Error(`${broken.id}: ${broken.error!.message}`);
  const { state, error, warnings } = built.step("s");
  const told = Math.max(
    0,
    ...warnings.flatMap(({ code, message }) =>
      code === "approximate" ? [Number(/right to ([\d.]+) mm/.exec(message)![1])] : [],
    ),
  );
  const sum = (those: (depth: number) => boolean) =>
    places.reduce((total, { depth, area }) => total + (those(depth) ? area : 0), 0);
  const whole = sum(() => true);
  const room = COARSE * whole;
  const [least, most] = [sum((depth) => depth < -ON - told), sum((depth) => depth < ON + told)];
  if (state === "failed") {
    if (error!.code === "division-failed") return verdict("refused", error!.message);
    if (error!.code === "cutter-misses")
      return sum((depth) => depth < -TOUCHING) > room && sum((depth) => depth > TOUCHING) > room
        ? verdict("wrong", `said to miss: ${error!.message}`)
        : verdict("right");
    return verdict("wrong", `${error!.code}: ${error!.message}`);
  }
  const areas = (built.pieces ?? []).map(({ piece, shape }) => ({
    area: areaOf(shape as Shape),
    side: piece.sides[built.bodies.find(({ id }) => id.startsWith("b:"))!.id],
  }));
  const all = areas.reduce((total, { area }) => total + area, 0);
  const inside = areas.reduce((total, { area, side }) => total + (side === "in" ? area : 0), 0);
  if (Math.abs(all - whole) > room) return verdict("wrong", `pieces ${all} are not ${whole}`);
  if (inside < least - room || inside > most + room)
    return verdict("wrong", `inside ${inside}, by closed forms ${least} to ${most} of ${whole}`);
  return verdict(told > 0 ? "told" : "right");
}

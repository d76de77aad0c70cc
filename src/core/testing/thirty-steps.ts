import { ResultCache } from "../evaluate";
import type { Body } from "../items";
import {
  allEdgeFacts,
  allFaceFacts,
  distance,
  distanceToPoint,
  dot,
  facesOf,
  length,
  sub,
  type Vec3,
  verticesOf,
} from "../kernel";
import { cornerRefOf, edgeRefOf, faceRefOf } from "../naming";
import type { CornerRef, EdgeRef, FaceRef } from "../references";
import { build, jobOf } from "./harness";

/** The dimensions of the part, mm. Half and one and a half times each make a part that can be made. */
export const SIZES = {
  width: 160,
  depth: 100,
  height: 24,
  post: 40,
  postHigh: 30,
  bore: 14,
  ribThick: 8,
  ribHigh: 12,
  corner: 6,
  rim: 2,
  slotWide: 10,
  slotHigh: 6,
  slotDeep: 8,
  drill: 5,
  pocketWide: 20,
  pocketLong: 20,
  pocketDeep: 5,
  lip: 1,
  lugWide: 30,
  lugOut: 20,
  lugHigh: 10,
  lugCorner: 4,
  lugDrill: 8,
  knob: 6,
  knobHigh: 10,
  knobRound: 2,
  ribCut: 3,
};
export type Sizes = typeof SIZES;

type Step = Record<string, unknown> & { id: string };

/** Where a picked face, edge or corner of the part lies, from its dimensions alone. */
export interface Truth {
  step: string;
  kind: "face" | "edge" | "corner";
  /** A point on it. */
  at: Vec3;
  /** A flat face's normal, out of the material. */
  normal?: Vec3;
  /** Whether an edge is straight or round. */
  round?: boolean;
}

/** A rectangle by the distances of its sides from the origin: left, right, down, up, each with the sign of its side. */
function rectangle(sides: { left: string; right: string; down: string; up: string }, start: number[]) {
  const [left, right, down, up] = start as [number, number, number, number];
  const at = [
    [left, down],
    [right, down],
    [right, up],
    [left, up],
  ];
  const line = (id: string, from: string, to: string) => ({ id, type: "line", from, to });
  const names = ["down", "right", "up", "left"] as const;
  return {
    entities: [
      ...at.map(([x, y], i) => ({ id: `p${i + 1}`, type: "point", x, y })),
      line("down", "p1", "p2"),
      line("right", "p2", "p3"),
      line("up", "p3", "p4"),
      line("left", "p4", "p1"),
    ],
    constraints: names.map((of, i) => ({ id: `k${i}`, type: i % 2 ? "vertical" : "horizontal", of: [of] })),
    dimensions: names.map((of, i) => ({ id: `d${i}`, type: "distance", of: ["origin", of], value: sides[of] })),
  };
}

const circle = (diameter: string, radius: number) => ({
  entities: [{ id: "c", type: "circle", centre: "origin", radius }],
  dimensions: [{ id: "d", type: "diameter", of: ["c"], value: diameter }],
});

/** Where everything that is picked lies. */
export function truths(p: Sizes): Truth[] {
  const [x, y] = [p.width / 2, p.depth / 2];
  const face = (step: string, at: Vec3, normal: Vec3): Truth => ({ step, kind: "face", at, normal });
  const edge = (step: string, at: Vec3, round = false): Truth => ({ step, kind: "edge", at, round });
  const [pocketX, ribEnd] = [-0.3 * p.width, x - 12];
  return [
    face("postOutline", [0.4 * p.width, 0, p.height], [0, 0, 1]),
    face("boreOutline", [0, 0, p.height + p.postHigh], [0, 0, 1]),
    ...[-1, 1].flatMap((i) => [-1, 1].map((j) => edge("corners", [i * x, j * y, p.height / 2]))),
    edge("rim", [0, -p.post / 2, p.height + p.postHigh], true),
    face("slotOutline", [x, 0.3 * p.depth, p.height / 2], [1, 0, 0]),
    face("pocketOutline", [0, -0.4 * p.depth, 0], [0, 0, -1]),
    ...[-1, 1].flatMap((i) => [
      edge("lip", [pocketX + (i * p.pocketWide) / 2, 0, 0]),
      edge("lip", [pocketX, (i * p.pocketLong) / 2, 0]),
    ]),
    ...[-1, 1].map((i) => edge("lugCorners", [(i * p.lugWide) / 2, y + p.lugOut, p.lugHigh / 2])),
    edge("knobRound", [-0.36 * p.width, -p.knob, p.height + p.knobHigh], true),
    ...(
      [
        [-1, -1],
        [1, -1],
        [1, 1],
      ] as const
    ).map(
      ([i, j]): Truth => ({
        step: "floor",
        kind: "corner",
        at: [pocketX + (i * p.pocketWide) / 2, (j * p.pocketLong) / 2, p.pocketDeep],
      }),
    ),
    face("middle", [x, 0.3 * p.depth, p.height / 2], [1, 0, 0]),
    face("middle", [-x, 0.3 * p.depth, p.height / 2], [-1, 0, 0]),
    edge("ribEnd", [ribEnd, 0, p.height + p.ribHigh]),
  ];
}

type Ref = FaceRef | EdgeRef | CornerRef;
type Pick = { [K in Truth["kind"]]: (step: string) => Extract<Ref, Record<string, unknown>>[] };

/** The steps of a bracket with a post, a rib, a slot, holes, a pocket, a lug and a knob. What is picked is left to the caller. */
function steps(pick: Pick): (() => Step)[] {
  const seam = (id: string, preset: string, stock: string, cutter: string): Step =>
    preset === "union"
      ? { id, type: "seam", preset, stock: [stock, cutter] }
      : { id, type: "seam", preset, stock: [stock], cutters: [cutter], keepCutters: false };
  const half = { left: "width / 2", right: "width / 2", down: "depth / 2", up: "depth / 2" };
  const slot = {
    left: "slotWide / 2",
    right: "slotWide / 2",
    down: "(height - slotHigh) / 2",
    up: "(height + slotHigh) / 2",
  };
  const pocket = {
    left: "0.3 * width + pocketWide / 2",
    right: "0.3 * width - pocketWide / 2",
    down: "pocketLong / 2",
    up: "pocketLong / 2",
  };
  const knob = { left: "0.36 * width", right: "0.36 * width + knob", down: "height", up: "height + knobHigh" };
  const drawn = (id: string, on: object, drawing: object): Step => ({ id, type: "sketch", ...on, ...drawing });
  const onFace = (id: string) => ({ on: "face", face: pick.face(id) });
  const cut = (id: string, of: string, targets: string, more: object): Step => ({
    id,
    type: "extrude",
    sketch: [of],
    into: "cut",
    targets: [targets],
    flip: true,
    ...more,
  });
  return [
    () => drawn("outline", {}, rectangle(half, [-80, 80, -50, 50])),
    () => ({ id: "plate", type: "extrude", sketch: ["outline"], distance: "height" }),
    () => drawn("postOutline", onFace("postOutline"), circle("post", 20)),
    () => ({
      id: "post",
      type: "extrude",
      sketch: ["postOutline"],
      distance: "postHigh",
      into: "join",
      targets: ["plate"],
    }),
    () => drawn("boreOutline", onFace("boreOutline"), circle("bore", 7)),
    () => cut("bore", "boreOutline", "post", { extent: "through" }),
    () => ({
      id: "rib",
      type: "box",
      size: ["width / 2 - 12 mm - (post / 2 - 2 mm)", "ribThick", "ribHigh"],
      at: ["(width / 2 - 12 mm + post / 2 - 2 mm) / 2", 0, "height"],
    }),
    () => seam("ribbed", "union", "bore", "rib"),
    () => ({ id: "corners", type: "fillet", edges: pick.edge("corners"), radius: "corner" }),
    () => ({ id: "rim", type: "chamfer", edges: pick.edge("rim"), distance: "rim" }),
    () => drawn("slotOutline", onFace("slotOutline"), rectangle(slot, [-5, 5, 9, 15])),
    () => cut("slot", "slotOutline", "ribbed", { distance: "slotDeep" }),
    () => ({
      id: "drill",
      type: "cylinder",
      diameter: "drill",
      height: "height + 2 mm",
      at: ["15 mm - width / 2", "12 mm - depth / 2", -1],
    }),
    () => ({
      id: "drills",
      type: "pattern",
      bodies: ["drill"],
      count: 2,
      spacing: "width - 30 mm",
      rows: 2,
      rowSpacing: "depth - 24 mm",
    }),
    () => ({ ...seam("drilled", "subtract", "slot", "drill"), cutters: ["drill", "drills"] }),
    () => drawn("pocketOutline", onFace("pocketOutline"), rectangle(pocket, [-58, -38, -10, 10])),
    () => cut("pocket", "pocketOutline", "drilled", { distance: "pocketDeep" }),
    () => ({ id: "lip", type: "chamfer", edges: pick.edge("lip"), distance: "lip" }),
    () => ({
      id: "lug",
      type: "box",
      size: ["lugWide", "lugOut", "lugHigh"],
      at: [0, "(depth + lugOut) / 2", 0],
    }),
    () => seam("lugged", "union", "pocket", "lug"),
    () => ({ id: "lugCorners", type: "fillet", edges: pick.edge("lugCorners"), radius: "lugCorner" }),
    () => ({
      id: "lugDrill",
      type: "cylinder",
      diameter: "lugDrill",
      height: "lugHigh + 2 mm",
      at: [0, "(depth + lugOut) / 2", -1],
    }),
    () => seam("lugDrilled", "subtract", "lugged", "lugDrill"),
    () => drawn("knobOutline", { on: "zx" }, rectangle(knob, [57.6, 63.6, 24, 34])),
    () => ({
      id: "knob",
      type: "revolve",
      sketch: ["knobOutline"],
      axis: "line",
      line: "left",
      into: "join",
      targets: ["lugDrilled"],
    }),
    () => ({ id: "knobRound", type: "fillet", edges: pick.edge("knobRound"), radius: "knobRound" }),
    () => ({ id: "floor", type: "workplane", base: "points", corners: pick.corner("floor") }),
    () => ({ id: "middle", type: "workplane", base: "midway", faces: pick.face("middle") }),
    () => seam("halves", "split", "knob", "middle"),
    () => ({ id: "ribEnd", type: "chamfer", edges: pick.edge("ribEnd"), distance: "ribCut" }),
  ];
}

/** A job of steps with the part's dimensions as parameters. */
export const sized = (all: readonly Record<string, unknown>[], changed: Partial<Sizes> = {}) =>
  jobOf([...all], {
    parameters: Object.entries({ ...SIZES, ...changed }).map(([name, formula]) => ({ name, formula, unit: "mm" })),
  });

/** The thirty steps, with everything picked where it lies when it is picked, as a person picks it: by name and looks. */
export function thirtySteps(): Step[] {
  const cache = new ResultCache();
  const done: Step[] = [];
  const at = truths(SIZES);
  const pickOf = (kind: Truth["kind"]) => (step: string) => {
    const { bodies } = build(sized(done), { cache });
    return at.filter((truth) => truth.step === step && truth.kind === kind).map((truth) => refAt(bodies, truth));
  };
  const pick = { face: pickOf("face"), edge: pickOf("edge"), corner: pickOf("corner") } as unknown as Pick;
  for (const make of steps(pick)) done.push(make());
  cache.clear();
  return done;
}

/** The one face, edge or corner of the bodies that lies where it should. */
function refAt(bodies: readonly Body[], truth: Truth): Ref {
  const found = bodies.flatMap((body) => placesOf(body, truth).map((place) => ({ body, place })));
  if (found.length !== 1) throw new Error(`${found.length} things of ${truth.step} lie at ${truth.at.join(", ")}`);
  const { body, place } = found[0]!;
  if (truth.kind === "face") return faceRefOf(body, place);
  return truth.kind === "edge" ? edgeRefOf(body, place) : cornerRefOf(body, place);
}

/** The places of a body's faces, edges or corners that lie where the truth says. */
export function placesOf(body: Body, truth: Truth): number[] {
  const count =
    truth.kind === "face"
      ? body.faces.length
      : truth.kind === "edge"
        ? allEdgeFacts(body.shape).length
        : verticesOf(body.shape).length;
  return Array.from({ length: count }, (_, place) => place).filter((place) => liesThere(body, place, truth));
}

/** Whether a face, edge or corner is the one that the truth is about. */
export function liesThere(body: Body, place: number, { kind, at, normal, round }: Truth): boolean {
  if (kind === "corner") return distance(verticesOf(body.shape)[place]!, at) < 1e-5;
  if (kind === "face") {
    const facts = allFaceFacts(body.shape)[place]!;
    const gap = distanceToPoint(facesOf(body.shape)[place]!, at)?.gap ?? 1;
    return facts.kind === "plane" && dot(facts.direction!, normal!) > 1 - 1e-9 && gap < 1e-6;
  }
  const facts = allEdgeFacts(body.shape)[place];
  if (!facts || (facts.kind === "circle") !== round) return false;
  if (round) {
    const away = sub(at, facts.centre!);
    return Math.abs(length(away) - facts.radius!) < 1e-6 && Math.abs(dot(away, facts.direction!)) < 1e-6;
  }
  const [from, to] = facts.ends;
  return distance(from, at) + distance(to, at) - distance(from, to) < 1e-6;
}

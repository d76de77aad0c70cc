import { beforeAll, describe, expect, test } from "vitest";
import { evaluateJob, type PartResult, ResultCache } from "../evaluate";
import { type Body, isBody } from "../items";
import { checkJob, type Job } from "../job";
import { allFaceFacts, distanceToPoint, facesOf, triangulate, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { pairOf } from "./audit";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const at = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
const line = (id: string, from: string, to: string) => ({ id, type: "line", from, to });
/** Where the crown's centre lies below the knuckle's: the two meet in one tangent, which is what makes a head of this kind. */
const DEEP = Math.sqrt(80 ** 2 - 60 ** 2);

/**
 * A vessel with a torispherical head: crown of radius 100, knuckle of 20, on a shell of 160 across, walls of 5 mm. That crown, knuckle and shell run into
 * each other tangentially is what such heads are; the sizes are ours.
 */
const vessel: Step[] = [
  {
    id: "k",
    type: "sketch",
    on: "yz",
    entities: [
      at("top", 0, 100 - DEEP),
      at("a", 75, 1.25 * DEEP - DEEP),
      at("b", 80, 0),
      at("c", 80, -60),
      at("d", 0, -60),
      at("crown", 0, -DEEP),
      at("knuckle", 60, 0),
      { id: "r1", type: "arc", centre: "crown", from: "a", to: "top" },
      { id: "r2", type: "arc", centre: "knuckle", from: "b", to: "a" },
      line("l1", "b", "c"),
      line("l2", "c", "d"),
      line("l3", "d", "top"),
    ],
  },
  { id: "v", type: "revolve", sketch: ["k"] },
];

const inPlace = (steps: Step[]): Job =>
  checkJob({
    format: "bold-seam-job",
    version: 1,
    name: "Vessel",
    parts: [
      // The vessel stands turned and off to one side: what is cut to it is drawn in the beam's own coordinates.
      {
        id: "vessel",
        name: "Vessel",
        steps: [...vessel, ...shell()],
        places: [{ id: "p", by: [-30, 0, 10], turn: 30 }],
      },
      { id: "beam", name: "Beam", steps },
    ],
  });

/** Hollow from below: its one flat face is left open. */
const shell = (): Step[] => [
  {
    id: "h",
    type: "shell",
    body: ["v"],
    thickness: 5,
    open: [{ body: "v", print: { kind: "plane", direction: [0, 0, -1] } }],
  },
];

const built = (job: Job) => evaluateJob(job, { cache: new ResultCache(), file: () => undefined });
const solids = (result: PartResult): Body[] =>
  result.bench.map(({ item }) => item).filter((item): item is Body => isBody(item) && item.kind === "solid");

/** The crown of the hollow vessel, outside or inside, by name: it is told by its radius. */
function crownOf(outside: boolean): string {
  const body = solids(built(inPlace([])).get("vessel")!)[0]!;
  const radius = outside ? 100 : 95;
  const place = allFaceFacts(body.shape).findIndex(
    (face) => face.kind === "sphere" && Math.abs(face.radius! - radius) < 1e-6,
  );
  return body.faces[place]!;
}

/** How far a skin of the vessel is from places all over the faces of a body that were cut by it, mm. */
function offAllOver(cut: Body, skin: Body): { most: number; places: number } {
  let [most, places] = [0, 0];
  const faces = facesOf(cut.shape);
  const size = { linear: 0.05, angular: 0.1 };
  cut.faces.forEach((name, f) => {
    if (!name.includes("in:of:")) return;
    const { positions } = triangulate(faces[f]!, [], size);
    for (let i = 0; i < positions.length; i += 3 * Math.max(1, Math.floor(positions.length / 300))) {
      // Triangles are in single precision: the face's own place beside each of their corners.
      const place = distanceToPoint(faces[f]!, [positions[i]!, positions[i + 1]!, positions[i + 2]!])!.on2;
      most = Math.max(most, distanceToPoint(skin.shape, place)!.gap);
      places++;
    }
  });
  return { most, places };
}

describe.each([
  ["outer", true],
  ["inner", false],
] as const)("cut to the %s face of a dished head in another part", (_, outside) => {
  // The crown, and with it what runs smoothly on from it: the knuckle and the shell.
  const skin = () => ({ body: "h", face: crownOf(outside), with: "smooth" });

  test.each<[string, Step[]]>([
    ["a beam", [{ id: "b", type: "box", size: [30, 20, 200], at: [0, 12, 0], anchor: "base" }]],
    [
      "a pipe",
      [
        { id: "o", type: "cylinder", diameter: 40, height: 200, at: [20, -15, 0] },
        { id: "i", type: "cylinder", diameter: 32, height: 200, at: [20, -15, 0] },
        { id: "b", type: "seam", preset: "subtract", stock: ["o"], cutters: ["i"], keepCutters: false },
      ],
    ],
  ])("%s stands on it all over, nothing left over, and takes no room of the wall", (_name, steps) => {
    // The front of a face is where its body is not: outside of the vessel, or in its hollow.
    const job = inPlace([
      ...steps,
      { id: "in", type: "bring-in", part: "vessel", faces: [skin()] },
      {
        id: "t",
        type: "seam",
        preset: "trim",
        stock: ["b"],
        cutters: ["in"],
        keepSide: { in: "front" },
        keepCutters: true,
      },
    ]);
    const results = built(job);
    const beam = results.get("beam")!;
    expect(beam.steps.map(({ error }) => error?.message)).toEqual(beam.steps.map(() => undefined));
    const [cut, ...others] = solids(beam);
    expect(others).toEqual([]);
    const sheet = beam.bench
      .map(({ item }) => item)
      .find((item): item is Body => isBody(item) && item.kind === "sheet")!;
    const off = offAllOver(cut!, sheet);
    expect(off.places).toBeGreaterThan(20);
    expect(off.most).toBeLessThan(1e-6);
    // Held against the vessel itself, where it stands: they touch, and share nothing.
    const [whole] = solids(built(inPlace([{ id: "in", type: "bring-in", part: "vessel", items: ["h"] }])).get("beam")!);
    const pair = pairOf(cut!, whole!);
    expect(pair.state).toBe("touch");
    expect(volumeOf(cut!.shape)).toBeGreaterThan(1000);
  });
});

import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { faceRefOf } from "../naming";
import type { FaceRef } from "../references";
import { build, jobOf } from "../testing/harness";

beforeAll(loadNodeKernel);

const block = (length: number, more: object = {}) => ({ id: "b", type: "box", size: [length, 40, 30], ...more });
const hole = { id: "h", type: "cylinder", diameter: 10, height: 50, at: [0, 0, -25] };
const round = (faces: FaceRef[]) => ({ id: "o", type: "offset-sheet", faces, distance: 2 });

/** What the step `o` refers to, as it is seen when that step is opened. */
function opened(...steps: object[]) {
  const built = build(jobOf(steps as never), { upTo: (steps.at(-1) as { id: string }).id });
  return built.meanings!;
}

function topOf(...steps: object[]): FaceRef {
  const { bodies } = build(jobOf(steps as never));
  const [body] = bodies;
  return faceRefOf(body!, body!.faces.indexOf("b:side:z+"));
}

describe("what references have come to is told by the finder that builds with them", () => {
  test("found by its name; the name as it is, and nothing guessed", () => {
    const ref = topOf(block(60));
    const [found] = opened(block(60), round([ref])).picked;
    expect(found).toEqual({ ref, now: ref, guessed: false });
  });

  test("found by its looks: what it is called now, marked as guessed", () => {
    const ref = { ...topOf(block(60)), face: "elsewhere:lid" };
    const [found] = opened(block(60), round([ref])).picked;
    expect(found).toMatchObject({ ref, now: { body: "b:block", face: "b:side:z+" }, guessed: true });
  });

  test("lost: nothing now, whether the face or its body is gone", () => {
    const gone: FaceRef = { body: "b", face: "x:wall", print: { kind: "sphere", radius: 3 } };
    const nowhere: FaceRef = { body: "z", face: "b:side:z+" };
    const found = opened(block(60), round([gone, nowhere])).picked;
    expect(found.map(({ now }) => now)).toEqual([null, null]);
  });

  test("a cut was put in between: the reference to the block means what the block lives on in", () => {
    const cut = { id: "c", type: "seam", preset: "subtract", stock: ["b"], cutters: ["h"] };
    const move = { id: "m", type: "move", bodies: ["b:block"], by: [5, 0, 0] };
    const built = build(jobOf([block(60), hole, cut, move] as never), { upTo: "m" });
    const [after] = built.before!.filter(({ item }) => item.id.startsWith("c:"));
    expect(built.meanings!.items["b:block"]).toEqual([after!.item.id]);
    // And the step moves just that.
    expect(built.step("m").state).toBe("good");
  });

  test("each agrees with what its step then does: lost is failed, guessed is warned, found is good", () => {
    const kinds: FaceRef[] = [
      topOf(block(60)),
      { ...topOf(block(60)), face: "elsewhere:lid" },
      { body: "b", face: "x:wall", print: { kind: "sphere", radius: 3 } },
    ];
    const states = kinds.map((ref) => {
      const built = build(jobOf([block(60), round([ref])] as never), { upTo: "o" });
      const [found] = built.meanings!.picked;
      return [found!.now === null ? "failed" : found!.guessed ? "warned" : "good", built.step("o").state];
    });
    for (const [said, state] of states) expect(state).toBe(said);
    expect(states.map(([said]) => said)).toEqual(["good", "warned", "failed"]);
  });
});

describe("faces that notes are on", () => {
  const noted = (steps: object[], face: FaceRef) =>
    build(
      jobOf([], {
        parts: [{ id: "part", name: "Part", steps, notes: [{ id: "n", body: "b:block", face, text: "Polish" }] }],
      }),
    ).noted;

  test("go on with the piece that has the face, and are lost with it", () => {
    const face = topOf(block(60));
    expect(noted([block(80)], face)).toMatchObject([{ now: { body: "b:block", face: "b:side:z+" }, guessed: false }]);
    const plane = { id: "w", type: "workplane", base: "xy", offset: 3 };
    const split = { id: "s", type: "seam", preset: "split", stock: ["b"], cutters: ["w"] };
    const [after] = noted([block(60), plane, split], face);
    expect(after!.now).toMatchObject({ face: "b:side:z+" });
    expect(after!.now!.body).toMatch(/^s:/);
  });
});

import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

const side = (name: string) => ({ body: "b:block", face: `b:side:${name}` });
const k = (degrees: number) => Math.tan((degrees * Math.PI) / 180);

describe("draft faces", () => {
  const block = { id: "b", type: "box", size: [40, 24, 10] };
  const draft = (more: object) => buildSteps(block, { id: "d", type: "draft", ...more });

  test("one face: a wedge less; the body stays the one it was, and so do its names", () => {
    const built = draft({ faces: [side("x+")], angle: 6 });
    expect(built.reports[0]!.volume! / (40 * 24 * 10 - (k(6) * 100 * 24) / 2)).toBeCloseTo(1, 9);
    expect(built.bodies[0]!.id).toBe("b:block");
    expect(built.bodies[0]!.faces.toSorted()).toEqual(
      ["x+", "x-", "y+", "y-", "z+", "z-"].map((name) => `b:side:${name}`),
    );
  });

  test("all four from the middle: what is lost above is gained below", () => {
    const built = buildSteps(
      block,
      { id: "w", type: "workplane", base: "xy", offset: 5 },
      { id: "d", type: "draft", faces: ["x+", "x-", "y+", "y-"].map(side), about: "workplane", plane: ["w"], angle: 5 },
    );
    // The prismatoid about its middle: (40 − 2kz)(24 − 2kz) over −5 … 5, whose odd terms cancel.
    expect(built.reports[0]!.volume! / (9600 + (4 * k(5) ** 2 * 250) / 3)).toBeCloseTo(1, 9);
  });

  test("the other way round, about a face", () => {
    const built = draft({ faces: [side("x+")], about: "face", face: [side("z+")], angle: 6, flip: true });
    expect(built.reports[0]!.volume! / (9600 - (k(6) * 100 * 24) / 2)).toBeCloseTo(1, 9);
  });

  test("a cylinder becomes the frustum of a cone", () => {
    const built = buildSteps(
      { id: "c", type: "cylinder", diameter: 20, height: 10 },
      { id: "d", type: "draft", faces: [{ body: "c", face: "c:side" }], angle: 10 },
    );
    const [R, r] = [10, 10 - k(10) * 10];
    expect(built.reports[0]!.volume! / ((Math.PI * 10 * (R * R + R * r + r * r)) / 3)).toBeCloseTo(1, 9);
  });

  test("a draft that closes a face: how much fits, and that does", () => {
    const values = { faces: ["x+", "x-", "y+", "y-"].map(side), angle: 60 };
    const { error } = draft(values).step("d");
    expect(error!.message).toMatch(/^With a draft of 60° faces of Block meet, or one closes\. Up to [\d.]+° fits\.$/);
    expect(error!.at).toBeDefined();
    expect(Number(error!.repair!.set.angle)).toBeCloseTo(50.19, 0);
    expect(draft({ ...values, ...error!.repair!.set }).step("d").state).toBe("good");
  });

  test.each([
    ["faces along the plane", { faces: [side("z+")], angle: 5 }, /cannot be drafted from this plane/],
    ["no faces", { angle: 5 }, /^Pick the faces to draft\.$/],
    ["no angle", { faces: [side("x+")], angle: 0 }, /^The draft is nothing\. Give an angle\.$/],
  ])("%s: refused", (_name, more, message) => {
    expect(draft(more).step("d").error!.message).toMatch(message);
  });
});

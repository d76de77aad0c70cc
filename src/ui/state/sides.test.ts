import { describe, expect, test } from "vitest";
import type { ItemView } from "@/engine/contract";
import { otherSide, sideOf, turnedRound } from "./sides";

const item = (id: string, kind: string, was: string[] = []) =>
  ({ id, kind, was, step: id.split(":")[0], name: id }) as unknown as ItemView;
const plane = item("w:plane", "workplane");
const ball = item("b:sphere", "solid", ["b:old"]);

describe("a side that is turned round", () => {
  test("front and back, in and out; both become one", () => {
    expect((["front", "back", "in", "out"] as const).map((side) => otherSide(side, false))).toEqual([
      "back",
      "front",
      "out",
      "in",
    ]);
    expect([otherSide("either", false), otherSide("either", true)]).toEqual(["front", "out"]);
  });

  test("is that of the cutter as it is called now, whatever it was kept under; the others stay", () => {
    const sides = { w: "back", "b:old": "in" } as const;
    const turned = turnedRound(sides, "w:plane", [plane, ball], []);
    expect(turned).toEqual({ "w:plane": "front", "b:sphere": "in" });
    expect(sideOf(turned, plane)).toBe("front");
    expect(turnedRound({}, "b:sphere", [plane, ball], [])).toEqual({ "b:sphere": "in" });
  });

  test("of a single face, too; twice is as before", () => {
    const ref = { body: "a", face: "a:side" } as never;
    const once = turnedRound({}, "face:a:side", [plane], [ref]);
    expect(once).toEqual({ "face:a:side": "back" });
    expect(turnedRound(once, "face:a:side", [plane], [ref])).toEqual({ "face:a:side": "front" });
  });
});

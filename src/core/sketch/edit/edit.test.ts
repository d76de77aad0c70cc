import { describe, expect, test } from "vitest";
import { profileOf } from "../item";
import { solveSketch } from "../solver";
import { fittingConstraints, fittingDimensions } from "./fits";
import { rectangle } from "./shapes";
import { SketchEdit } from "./sketch-edit";

const empty = { entities: [], constraints: [], dimensions: [] };

describe("drawing", () => {
  test("a rectangle on the origin is closed, level and upright, and can change its size alone", () => {
    const edit = new SketchEdit(empty);
    const sides = rectangle(edit, "origin", [40, 25]);
    expect(sides).toEqual(["l1", "l2", "l3", "l4"]);
    const state = solveSketch(edit.parts, () => 0);
    expect(state).toMatchObject({ degrees: 2, conflicts: [], met: true });
    expect(profileOf(edit.entities).regions.map(({ area }) => area)).toEqual([1000]);
  });

  test("ids go on where they are free; the sketch that was given stays as it is", () => {
    const first = new SketchEdit(empty);
    first.line([0, 0], [10, 0]);
    const second = new SketchEdit(first.parts);
    second.remove(["l1"]);
    expect(second.entities).toEqual([]);
    second.circle([0, 0], 3);
    expect(second.entities.map(({ id }) => id)).toEqual(["p1", "c1"]);
    expect(first.entities).toHaveLength(3);
  });
});

describe("taking out", () => {
  const chain = () => {
    const edit = new SketchEdit(empty);
    const a = edit.line([0, 0], [10, 0]);
    const b = edit.line("p2", [10, 10]);
    edit.hold("perpendicular", [a, b]);
    edit.hold("horizontal", [a]);
    edit.size("distance", [b], 10);
    return edit;
  };

  test("a line takes its rules and its lone points with it, and leaves shared ones", () => {
    const edit = chain();
    edit.remove(["l1"]);
    expect(edit.entities.map(({ id }) => id)).toEqual(["p2", "p3", "l2"]);
    expect(edit.constraints).toEqual([]);
    expect(edit.dimensions).toHaveLength(1);
  });

  test("a point takes the curves that stand on it", () => {
    const edit = chain();
    edit.remove(["p2"]);
    expect(edit.entities).toEqual([]);
    expect(edit.dimensions).toEqual([]);
  });

  test("a rule alone", () => {
    const edit = chain();
    edit.remove(["k2"]);
    expect(edit.entities).toHaveLength(5);
    expect(edit.constraints.map(({ id }) => id)).toEqual(["k1"]);
  });
});

describe("what fits what is picked", () => {
  const edit = new SketchEdit(empty);
  edit.line([0, 0], [10, 0]);
  edit.line([0, 5], [10, 6]);
  edit.circle([30, 0], 4);

  test.each([
    [["l1"], ["horizontal", "vertical", "fixed"], ["distance"]],
    [["l1", "l2"], ["parallel", "perpendicular", "equal"], ["angle"]],
    [["c1", "l1"], ["tangent"], []],
    [
      ["p1", "p3"],
      ["coincident", "horizontal", "vertical"],
      ["distance", "across", "upright"],
    ],
    [["l1", "p3"], ["on", "midpoint"], ["distance"]],
    [
      ["p1", "origin"],
      ["coincident", "horizontal", "vertical"],
      ["distance", "across", "upright"],
    ],
    [["axis-y", "p1", "p2"], ["symmetric"], []],
    [["c1"], ["fixed"], ["diameter", "radius"]],
    [["c1", "p1"], ["on"], []],
    [[], [], []],
  ])("%j", (picked, constraints, dimensions) => {
    expect(fittingConstraints(edit, picked).map(({ type }) => type)).toEqual(constraints);
    expect(fittingDimensions(edit, picked).map(({ type }) => type)).toEqual(dimensions);
  });

  test("in the order that the rule asks for", () => {
    expect(fittingConstraints(edit, ["l1", "p3"])[0]).toEqual({ type: "on", of: ["p3", "l1"] });
    expect(fittingConstraints(edit, ["axis-y", "p1", "p2"])[0]!.of).toEqual(["p1", "p2", "axis-y"]);
  });
});

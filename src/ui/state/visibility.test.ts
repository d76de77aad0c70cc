import { describe, expect, test } from "vitest";
import { jobOf } from "@/core/testing/harness";
import type { ItemView } from "@/engine/contract";
import { isOut, toggledView } from "./visibility";

const part = jobOf([
  { id: "w", type: "workplane" },
  { id: "v", type: "workplane" },
  { id: "k", type: "sketch", on: "workplane", plane: ["w:plane"] },
  { id: "e", type: "extrude", sketch: ["k"] },
]).parts[0]!;
const item = (kind: ItemView["kind"], id: string): ItemView =>
  ({ kind, id, step: id.split(":")[0]!, name: id }) as ItemView;
const nothing = { hidden: new Set<string>(), shown: new Set<string>(), alone: null };

describe("what is left out of the view", () => {
  test("planes and sketches that a step was made with; nothing else", () => {
    const out = (kind: ItemView["kind"], id: string) => isOut(item(kind, id), part, nothing);
    expect(out("workplane", "w:plane")).toBe(true);
    expect(out("sketch", "k:sketch")).toBe(true);
    expect(out("workplane", "v:plane")).toBe(false);
    expect(out("solid", "e:solid")).toBe(false);
  });

  test("shown when asked for, and left out again", () => {
    const sketch = item("sketch", "k:sketch");
    const asked = toggledView(sketch, part, nothing);
    expect(isOut(sketch, part, asked)).toBe(false);
    expect(isOut(sketch, part, toggledView(sketch, part, asked))).toBe(true);
  });

  test("a body is hidden and shown; alone, all else is out, and a press on its eye ends that", () => {
    const solid = item("solid", "e:solid");
    const hidden = toggledView(solid, part, nothing);
    expect(isOut(solid, part, hidden)).toBe(true);
    expect(isOut(solid, part, toggledView(solid, part, hidden))).toBe(false);
    const alone = { ...nothing, alone: "v:plane" };
    expect(isOut(solid, part, alone)).toBe(true);
    expect(toggledView(solid, part, alone).alone).toBeNull();
    expect(isOut(solid, part, toggledView(solid, part, alone))).toBe(false);
  });
});

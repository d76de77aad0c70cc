import { expect, test } from "vitest";
import type { ItemView } from "@/engine/contract";
import { outcomeOf } from "./outcome";

const item = (id: string, name: string, kind = "solid") =>
  ({ id, name, kind, traits: ["body"], meshId: id, measures: {}, faces: [] }) as unknown as ItemView;
const before = [item("b", "Block"), item("c", "Bar"), item("w", "Level", "workplane"), item("k", "Knife")];

test("a body that lives on is told by its name, what is divided comes as new bodies, what is used up is gone", () => {
  const after = [item("s:1", "Block"), item("s:2", "Bar 1"), item("s:3", "Bar 2"), item("w", "Level", "workplane")];
  const { bodies, gone } = outcomeOf({ made: ["s:1", "s:2", "s:3"], becomes: { b: "s:1" } }, before, after);
  expect(bodies.map(({ body, is }) => [body.name, ...is])).toEqual([["Block", "Block"], ["Bar 1"], ["Bar 2"]]);
  expect(gone).toEqual(["Bar", "Knife"]);
});

test("one body may be what two were", () => {
  const { bodies, gone } = outcomeOf({ made: ["u"], becomes: { b: "u", c: "u" } }, before, [
    item("u", "Block"),
    ...before.slice(2),
  ]);
  expect(bodies.map(({ is }) => is)).toEqual([["Block", "Bar"]]);
  expect(gone).toEqual([]);
});

test("nothing comes of a step that was not done", () =>
  expect(outcomeOf(undefined, before, before)).toEqual({ bodies: [], gone: [] }));

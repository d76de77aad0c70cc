import { describe, expect, test } from "vitest";
import { commandFor, isNamed, keysFor, NAMED } from "./command";
import { keyOf, TAKEN } from "./keys";

const press = (key: string, more: Partial<Record<"ctrlKey" | "metaKey" | "altKey" | "shiftKey", boolean>> = {}) =>
  keyOf({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more });

describe("keys as they are written", () => {
  test.each([
    [press("z", { ctrlKey: true }), "Ctrl Z"],
    [press("z", { metaKey: true }), "Ctrl Z"],
    [press("Z", { ctrlKey: true, shiftKey: true }), "Ctrl Shift Z"],
    [press("f"), "F"],
    [press("F", { shiftKey: true }), "Shift F"],
    [press("?", { shiftKey: true }), "?"],
    [press("/"), "/"],
    [press("Home"), "Home"],
    [press("Tab", { shiftKey: true }), "Shift Tab"],
    [press("ä"), "Ä"],
    [press("Shift", { shiftKey: true }), null],
    [press("Dead"), null],
  ])("%s", (got, wanted) => expect(got).toBe(wanted));
});

describe("which command a key belongs to", () => {
  test("no two come with the same key, and none with one that the page needs", () => {
    const keys = Object.values(NAMED).flatMap(({ keys }) => keys || []);
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys.filter((key) => TAKEN.has(key))).toEqual([]);
  });

  test("each is found by the key that it shows, as it comes and changed", () => {
    for (const id of Object.keys(NAMED).filter((id) => keysFor(id, {}) !== ""))
      expect(commandFor(keysFor(id, {}), {})).toBe(id);
    const changed = { measure: "Ctrl M", "tool:box": "B", hide: "" };
    expect(commandFor("Ctrl M", changed)).toBe("measure");
    expect(commandFor("M", changed)).toBeNull();
    expect(commandFor("B", changed)).toBe("tool:box");
    expect(commandFor("H", changed)).toBeNull();
    expect(keysFor("hide", changed)).toBe("");
    expect(isNamed("tool:box")).toBe(false);
  });

  test("a key that was given to another command is that one's alone", () => {
    const changed = { measure: "P" };
    expect(commandFor("P", changed)).toBe("measure");
  });
});

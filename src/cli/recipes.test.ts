import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import path from "node:path";
import { describe, expect, test } from "vitest";
import { CHECKS } from "@/core/check/registry";
import { OUT_FORMATS } from "@/core/exchange/formats/list";
import { ITEM_KINDS } from "@/core/items/kinds";
import { STEP_TYPES } from "@/core/steps";

const root = process.cwd();
const text = (file: string) => readFileSync(path.join(root, file), "utf8");
const folders = (at: string, but: string[] = []) =>
  readdirSync(path.join(root, at)).filter(
    (name) => statSync(path.join(root, at, name)).isDirectory() && !but.includes(name),
  );
/** Whether a file imports from one of these, beside it. */
const imports = (file: string, from: string) => text(file).includes(`from "./${from}"`);

describe("docs/architecture.md", () => {
  test("every path that it names is there", () => {
    const named = [...text("docs/architecture.md").matchAll(/`([a-z][a-z0-9-]*\/[\w/.-]+)`/g)].map(([, name]) => name!);
    const places = ["", "src", "src/core", "src/ui"].map((base) => path.join(root, base));
    const there = (name: string) =>
      places.some((base) => ["", ".ts", ".tsx"].some((ending) => existsSync(path.join(base, `${name}${ending}`))));
    expect(named.length).toBeGreaterThan(30);
    expect(named.filter((name) => !there(name))).toEqual([]);
  });
});

describe("what is there was put there by the recipes", () => {
  test("a step: a folder with declare and evaluate, and a line in each list", () => {
    const at = "src/core/steps";
    const all = folders(at, ["shared"]);
    for (const name of all) {
      for (const file of ["declare.ts", "evaluate.ts"])
        expect(existsSync(path.join(root, at, name, file)), name).toBe(true);
      expect(imports(`${at}/registry.ts`, `${name}/declare`), name).toBe(true);
      expect(imports(`${at}/evaluations.ts`, `${name}/evaluate`), name).toBe(true);
    }
    expect(all.sort()).toEqual(STEP_TYPES.map(({ type }) => type).sort());
  });

  test("a check: a folder with declare and run, and a line in each list", () => {
    const at = "src/core/check";
    // What is measured of bodies, and between things, is no check.
    const all = folders(at, ["facts", "measure"]);
    for (const name of all) {
      expect(imports(`${at}/registry.ts`, `${name}/declare`), name).toBe(true);
      expect(imports(`${at}/runs.ts`, `${name}/run`), name).toBe(true);
    }
    expect(all.sort()).toEqual(CHECKS.map(({ id }) => id).sort());
  });

  test("a format: a folder with declare and write, and a line in each list", () => {
    const at = "src/core/exchange/formats";
    const all = folders(at);
    for (const name of all) {
      expect(imports(`${at}/list.ts`, `${name}/declare`), name).toBe(true);
      expect(imports(`${at}/writers.ts`, `${name}/write`), name).toBe(true);
    }
    expect(all.sort()).toEqual(OUT_FORMATS.map(({ id }) => id).sort());
  });

  test("a kind of item: a line in kinds, and in the lists of how it is handled and how it is shown", () => {
    const handled = text("src/core/items/handlings.ts");
    const shown = text("src/ui/items/index.ts");
    for (const kind of Object.keys(ITEM_KINDS)) {
      expect(handled, kind).toMatch(new RegExp(`^  ${kind}:`, "m"));
      expect(shown, kind).toMatch(new RegExp(`^  ${kind}:`, "m"));
    }
  });
});

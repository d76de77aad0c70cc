import { existsSync } from "node:fs";
import path from "node:path";
import { expect, test } from "vitest";
import { TOOLS } from "../workspace/tools";
import { HELP } from "./pages";

test("every tool has its page, and no page is of a tool that is not there", () => {
  expect(Object.keys(HELP).sort()).toEqual(TOOLS.map(({ id }) => id).sort());
});

test("each says in sentences what goes in and what comes out, and has its picture", () => {
  for (const [id, page] of Object.entries(HELP)) {
    for (const text of [page.takes, page.gives, page.example]) expect(text, id).toMatch(/^[A-Z].*\.$/);
    expect(existsSync(path.join(process.cwd(), "public", "help", `${id}.png`)), id).toBe(true);
  }
});

import { describe, expect, test } from "vitest";
import { messageOf } from "../testing/harness";
import { checkJob, emptyJob, type SavedView, upgradeJob, viewEdits } from ".";

const view = (name: string, more: Partial<SavedView> = {}): SavedView => ({
  name,
  from: [1, -1, 1],
  at: [0, 0, 20],
  across: 120,
  section: null,
  ...more,
});

const partOf = (...views: SavedView[]) => {
  const [part] = emptyJob("J").parts;
  for (const one of views) viewEdits.keepView(part!, one);
  return part!;
};

const checked = (views: unknown[]) => {
  const job = emptyJob("J");
  return checkJob({ ...job, parts: [{ ...job.parts[0]!, views }] });
};

describe("views of a part that are kept", () => {
  test("a view of the same name is replaced where it stands", () => {
    const part = partOf(view("a"), view("b"), view("a", { across: 7 }));
    expect(part.views.map(({ name, across }) => [name, across])).toEqual([
      ["a", 7],
      ["b", 120],
    ]);
  });

  test("one is renamed, but not to what another is called or to nothing; one is thrown away", () => {
    const part = partOf(view("a"), view("b"));
    viewEdits.renameView(part, "a", " b ");
    viewEdits.renameView(part, "a", "  ");
    expect(part.views.map(({ name }) => name)).toEqual(["a", "b"]);
    viewEdits.renameView(part, "a", " Seat ");
    viewEdits.removeView(part, "b");
    viewEdits.removeView(part, "b");
    expect(part.views.map(({ name }) => name)).toEqual(["Seat"]);
  });

  test("a job from before there were any has none", () => {
    const { parts, ...rest } = emptyJob("J");
    const { views: _views, ...part } = parts[0]!;
    expect(upgradeJob({ ...rest, parts: [part] })).toMatchObject({ parts: [{ views: [] }] });
    expect(checkJob({ ...rest, parts: [part] }).parts[0]!.views).toEqual([]);
  });

  test.each([
    ["two of one name", [view("a"), view("a")], "The job cannot be used. The list of views: two views are called “a”."],
    [
      "no direction",
      [view("a", { from: [0, 0, 0] })],
      "The job cannot be used. View 1 “a”, “from”: has no direction: one of the numbers has to be other than 0.",
    ],
    [
      "nothing seen",
      [view("a", { across: 0 })],
      "The job cannot be used. View 1 “a”, “across”: has to be more than 0.",
    ],
    [
      "a section beyond the part",
      [view("a", { section: { axis: "x", at: 2, flip: false } })],
      "The job cannot be used. View 1 “a”, “section”, “at”: has to be at most 1.",
    ],
  ])("refused: %s", (_what, views, words) => {
    expect(messageOf(() => checked(views))).toBe(words);
  });
});

import { expect, test } from "vitest";
import type { Stance } from "../viewport/view-camera";
import { freeViewName, takeView, viewNow } from "./saved-views";
import { createWorkspaceStore } from "./workspace-store";

const looking = (now: Stance) => ({
  now,
  camera: {
    stance: () => looked.now,
    take: (stance: Stance) => {
      looked.now = { from: stance.from, at: stance.at, across: stance.across };
    },
  },
});
const looked = looking({ from: [0.6, -0.7999999999, 0], at: [1.23456, 0, -0.00001], across: 99.9999 });

test("how the part is looked at is kept in thousandths, with its section, and taken again", () => {
  const workspace = createWorkspaceStore("p");
  workspace.getState().set({ section: { axis: "z", at: 0.25, flip: true } });
  const view = viewNow("Seat", looked, workspace);
  expect(view).toEqual({
    name: "Seat",
    from: [0.6, -0.8, 0],
    at: [1.235, 0, 0],
    across: 100,
    section: { axis: "z", at: 0.25, flip: true },
  });
  // What is moved afterwards is not moved in the view that is kept.
  workspace.getState().set({ section: null });
  looked.now = { from: [0, 0, 1], at: [9, 9, 9], across: 1 };
  takeView(view, looked, workspace);
  expect(workspace.getState().section).toEqual({ axis: "z", at: 0.25, flip: true });
  expect(workspace.getState().section).not.toBe(view.section);
  expect(viewNow("Seat", looked, workspace)).toEqual(view);
  takeView({ ...view, section: null }, looked, workspace);
  expect(workspace.getState().section).toBeNull();
});

test("a view that nobody names has the next free number", () => {
  expect(freeViewName([])).toBe("View 1");
  expect(freeViewName([{ name: "View 1" }, { name: "View 3" }])).toBe("View 2");
});

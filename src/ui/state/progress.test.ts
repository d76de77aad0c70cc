import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { ProgressTeller } from "./progress";
import { createWorkspaceStore } from "./workspace-store";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

function watched() {
  const workspace = createWorkspaceStore("p");
  let told = 0;
  workspace.subscribe((now, before) => {
    if (now.engine !== before.engine) told++;
  });
  let clock = 100;
  const teller = new ProgressTeller(workspace, () => clock);
  return {
    teller,
    engine: () => workspace.getState().engine,
    told: () => told,
    pass: (ms: number) => {
      clock += ms;
      vi.advanceTimersByTime(ms);
    },
  };
}

test("many steps in a moment are told once: the last of them, since when it is at work, and at what", () => {
  const { teller, engine, told, pass } = watched();
  teller.begin(40);
  expect(engine()).toEqual({ kind: "computing", done: 0, total: 40, since: 100 });
  for (let done = 1; done <= 30; done++) teller.tell(done, 40);
  teller.tell(30, 40, "dividing");
  expect(engine()).toMatchObject({ done: 0 });
  pass(50);
  expect(engine()).toEqual({ kind: "computing", done: 30, total: 40, since: 100, stage: "dividing" });
  expect(told()).toBe(2);
});

test("what a long step is at is written where it is read, and tells nobody", () => {
  const { teller, engine, told, pass } = watched();
  teller.begin(2);
  teller.tell(1, 2);
  pass(50);
  const before = told();
  pass(1000);
  teller.tell(1, 2, "weighing the pieces");
  pass(1000);
  expect(engine()).toMatchObject({ done: 1, since: 100, stage: "weighing the pieces" });
  expect(told()).toBe(before);
});

test("after the end nothing more is told; beginning again is told at once", () => {
  const { teller, engine, told, pass } = watched();
  teller.begin(9);
  teller.tell(5, 9);
  teller.end();
  pass(500);
  expect(engine()).toMatchObject({ done: 0 });
  expect(told()).toBe(1);
  teller.begin(3);
  expect(engine()).toMatchObject({ done: 0, total: 3 });
});

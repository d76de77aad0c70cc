import { describe, expect, test } from "vitest";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { jobOf } from "@/core/testing/harness";
import { loadNodeTriangles } from "@/core/triangles/node";
import type { Answer, EngineApi, Evaluation, Progress } from "./contract";
import { Cancelled, EngineHost, type EngineWorker } from "./host";
import { spawnNodeEngine } from "./node/spawn";
import { EngineSession } from "./session";
import { asEngineFault } from "./tell-fault";

interface Fake extends EngineWorker {
  killed: boolean;
  die(): void;
  finish(more?: { heapBytes?: number }): void;
  throwFault(cause: unknown): void;
  evaluations: number;
}

function fakes() {
  const all: Fake[] = [];
  const spawn = (): EngineWorker => {
    let settle: { resolve(value: Answer<Evaluation>): void; reject(cause: unknown): void } | null = null;
    let die = () => {};
    const died = new Promise<void>((resolve) => {
      die = resolve;
    });
    const worker: Fake = {
      killed: false,
      evaluations: 0,
      ready: Promise.resolve(),
      died,
      die,
      kill() {
        worker.killed = true;
        die();
      },
      finish: ({ heapBytes = 0 } = {}) => settle?.resolve({ answer: { steps: [], items: [], noted: [] }, heapBytes }),
      throwFault: (cause) => settle?.reject(asEngineFault(cause)),
      api: {
        start: async () => {},
        warm: async () => false,
        run: ((operation) => {
          expect(operation).toBe("evaluate");
          worker.evaluations++;
          return new Promise((resolve, reject) => {
            settle = { resolve, reject };
          });
        }) as EngineApi["run"],
      } satisfies EngineApi,
    };
    all.push(worker);
    return worker;
  };
  return { all, spawn };
}

const request = { job: jobOf([]), part: "part", known: [] };
const options = { warm: true, heapLimit: 100, spare: true };
const tick = () => new Promise((resolve) => setImmediate(resolve));

test("whatever an engine is asked, by name: each has its one place in the table", async () => {
  const host = new EngineHost(spawnNodeEngine, { warm: false, heapLimit: 2 ** 31, spare: false });
  const job = jobOf([{ id: "a", type: "box", size: [10, 20, 30] }]);
  const { items } = await host.ask("evaluate", { job, part: "part", known: [] });
  const bytes = await host.ask("release", { job, part: "part", bodies: [items[0]!.id], format: "step", tolerance: 1 });
  const { bodies } = await host.ask("inspect", { name: "a.step", bytes });
  expect(bodies.map(({ volume }) => Math.round(volume! * 1e6) / 1e6)).toEqual([6000]);
  const { first } = await host.ask("measure", { job, part: "part", first: { body: items[0]!.id } });
  expect(first).toMatchObject({ kind: "solid" });
  const gone = host.ask("measure", { job, part: "part", first: { body: "b:block" } });
  await expect(gone).rejects.toThrow("What was measured is there no longer. Pick again.");
  expect(host.replaced).toBe(0);
  host.close();
});

describe("one engine at work, one in reserve", () => {
  test("cancelling kills the engine at work, and the reserve takes over", async () => {
    const { all, spawn } = fakes();
    const host = new EngineHost(spawn, options);
    await tick();
    expect(all).toHaveLength(2);
    const abort = new AbortController();
    const stopped = host.ask("evaluate", request, { signal: abort.signal });
    await tick();
    abort.abort();
    await expect(stopped).rejects.toBeInstanceOf(Cancelled);
    expect(all[0]!.killed).toBe(true);
    const next = host.ask("evaluate", request);
    await tick();
    expect(all[1]!.evaluations).toBe(1);
    all[1]!.finish();
    await next;
    await tick();
    expect(all).toHaveLength(3);
    host.close();
  });

  test("an engine that dies in the middle is replaced and the work is done again", async () => {
    const { all, spawn } = fakes();
    const host = new EngineHost(spawn, options);
    await tick();
    const work = host.ask("evaluate", request);
    await tick();
    all[0]!.die();
    await tick();
    expect(all[1]!.evaluations).toBe(1);
    all[1]!.finish();
    expect((await work).steps).toEqual([]);
    expect(host.replaced).toBe(1);
    host.close();
  });

  test("work that kills every engine ends with an error, and the host goes on", async () => {
    const { all, spawn } = fakes();
    const host = new EngineHost(spawn, { ...options, spare: false });
    const work = host.ask("evaluate", request);
    const outcome = expect(work).rejects.toThrow("The geometry engine stopped.");
    await tick();
    all[0]!.die();
    await tick();
    all[1]!.die();
    await outcome;
    const next = host.ask("evaluate", request);
    await tick();
    all[2]!.finish();
    await next;
    host.close();
  });

  test("an engine whose memory has grown is replaced unnoticed, after it has answered", async () => {
    const { all, spawn } = fakes();
    const host = new EngineHost(spawn, options);
    await tick();
    const work = host.ask("evaluate", request);
    await tick();
    all[0]!.finish({ heapBytes: 101 });
    await work;
    await tick();
    expect(all[0]!.killed).toBe(true);
    const next = host.ask("evaluate", request);
    await tick();
    expect(all[1]!.evaluations).toBe(1);
    all[1]!.finish();
    await next;
    host.close();
  });

  test("an ordinary error leaves the engine where it is; a fatal one replaces it", async () => {
    const { all, spawn } = fakes();
    const host = new EngineHost(spawn, { ...options, spare: false });
    const failing = host.ask("evaluate", request);
    const outcome = expect(failing).rejects.toThrow("unreachable");
    await tick();
    all[0]!.throwFault(new Error("unreachable"));
    await tick();
    all[1]!.throwFault(new Error("unreachable"));
    await outcome;
    expect(host.replaced).toBe(2);
    host.close();
  });
});

describe("the real engine in a thread", () => {
  test("evaluates, and does it again when its thread is ended in the middle", async () => {
    const spawned: EngineWorker[] = [];
    const host = new EngineHost(
      () => {
        const worker = spawnNodeEngine();
        spawned.push(worker);
        return worker;
      },
      { warm: false, heapLimit: 1e12, spare: false },
    );
    const job = jobOf([
      { id: "a", type: "box", size: [50, 50, 50] },
      { id: "b", type: "sphere", diameter: 40, at: [0, 0, 40] },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
    ]);
    const seen: number[] = [];
    const stages: string[] = [];
    const progress = ({ done, step, stage }: Progress) => {
      seen.push(done);
      if (stage) stages.push(`${step}: ${stage}`);
      // The first word of progress: the thread is in the middle of its work now.
      if (spawned.length === 1) spawned[0]!.kill();
    };
    const work = host.ask("evaluate", { job, part: "part", known: [] }, { progress });
    const { steps, items } = await work;
    expect(steps.map((step) => step.state)).toEqual(["good", "good", "good"]);
    expect(items.map((item) => item.name)).toEqual(["Sphere", "Block"]);
    expect(host.replaced).toBeLessThanOrEqual(1);
    expect(seen).toContain(3);
    expect(stages).toContain("s: dividing");
    host.close();
  });
});

test("what was stored and cannot be fetched, as when the server is away, is computed again", async () => {
  const session = new EngineSession({
    load: loadNodeKernel,
    loadTriangles: loadNodeTriangles,
    fetch: () => Promise.reject(new TypeError("Failed to fetch")),
    store: () => Promise.reject(new TypeError("Failed to fetch")),
  });
  await session.start({ geometry: "nowhere/" });
  const job = jobOf([{ id: "a", type: "box", size: [10, 20, 30] }]);
  const { answer } = await session.run("evaluate", { job, part: "part", known: [], storedKeys: ["1", "2"] });
  expect(answer.steps.map(({ state }) => state)).toEqual(["good"]);
});

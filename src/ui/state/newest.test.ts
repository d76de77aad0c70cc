import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { Newest } from "./newest";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

/** Work that ends when it is told to, or when it is stopped. */
function workshop(patience = 1000, ready = true) {
  const begun: { what: number; stopped: boolean; end(): void; ready(): void }[] = [];
  const newest = new Newest<number>(
    (what, signal, isReady) =>
      new Promise((resolve) => {
        const entry = { what, stopped: false, end: resolve, ready: isReady };
        if (ready) isReady();
        signal.addEventListener("abort", () => {
          entry.stopped = true;
          resolve();
        });
        begun.push(entry);
      }),
    patience,
    () => Date.now(),
  );
  return { newest, begun, whats: () => begun.map(({ what }) => what) };
}
const settled = () => vi.advanceTimersByTimeAsync(0);

describe("the newest", () => {
  test("begins at once where nothing is under way: in the same turn", () => {
    const { newest, whats } = workshop();
    newest.put(1);
    expect(whats()).toEqual([1]);
  });

  test("waits while another is under way, in place of what waited", async () => {
    const { newest, begun, whats } = workshop();
    for (const what of [1, 2, 3, 4]) newest.put(what);
    expect(whats()).toEqual([1]);
    begun[0]!.end();
    await settled();
    expect(whats()).toEqual([1, 4]);
    begun[1]!.end();
    await settled();
    expect(whats()).toEqual([1, 4]);
  });

  test("stops what goes on for long, counted from its beginning, and only while something waits", async () => {
    const { newest, begun } = workshop();
    newest.put(1);
    await vi.advanceTimersByTimeAsync(5000);
    expect(begun[0]!.stopped).toBe(false);
    newest.put(2);
    await settled();
    expect(begun[0]!.stopped).toBe(true);
    expect(begun[1]!.what).toBe(2);
    newest.put(3);
    await vi.advanceTimersByTimeAsync(999);
    expect(begun[1]!.stopped).toBe(false);
    begun[1]!.end();
    await vi.advanceTimersByTimeAsync(5000);
    // The patience with one is not counted against the next.
    expect(begun[2]!).toMatchObject({ what: 3, stopped: false });
  });

  test("getting ready is not counted: it would have to be done again", async () => {
    const { newest, begun } = workshop(1000, false);
    newest.put(1);
    newest.put(2);
    await vi.advanceTimersByTimeAsync(5000);
    expect(begun[0]!.stopped).toBe(false);
    begun[0]!.ready();
    await vi.advanceTimersByTimeAsync(999);
    expect(begun[0]!.stopped).toBe(false);
    await vi.advanceTimersByTimeAsync(1);
    expect(begun[0]!.stopped).toBe(true);
  });

  test("stopped by hand, nothing comes after", async () => {
    const { newest, begun, whats } = workshop();
    newest.put(1);
    newest.put(2);
    newest.stop();
    await settled();
    expect(begun[0]!.stopped).toBe(true);
    expect(whats()).toEqual([1]);
    newest.put(3);
    expect(whats()).toEqual([1, 3]);
  });

  test("whatever comes when: one at a time, in order, and the last is always done", async () => {
    const act = fc.oneof(fc.constant("put" as const), fc.constant("end" as const), fc.integer({ min: 1, max: 1500 }));
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 40 }), async (acts) => {
        const { newest, begun, whats } = workshop();
        const done = new Set<number>();
        let last = 0;
        for (const one of acts) {
          if (one === "put") newest.put(++last);
          else if (one === "end") {
            begun.at(-1)?.end();
            if (begun.length > 0) done.add(begun.at(-1)!.what);
          } else await vi.advanceTimersByTimeAsync(one);
          await settled();
          const open = begun.filter(({ what, stopped }) => !stopped && !done.has(what));
          expect(open.length).toBeLessThanOrEqual(1);
        }
        for (let i = 0; i < 2; i++) {
          begun.at(-1)?.end();
          await settled();
        }
        expect(whats()).toEqual([...whats()].sort((a, b) => a - b));
        expect(whats().at(-1) ?? 0).toBe(last);
      }),
      { numRuns: 200 },
    );
  });
});

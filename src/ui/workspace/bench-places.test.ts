import { describe, expect, test } from "vitest";
import type { Part } from "@/core/job";
import type { ItemView } from "@/engine/contract";
import { BETWEEN, CARD, drawnOf, EDGE, FREE, HEAD, placesOf, withHeads } from "./bench-places";

const body = (id: string) => ({ id, kind: "solid", was: [], step: id }) as unknown as ItemView;
const plane = (id: string) => ({ id, kind: "workplane", step: id }) as unknown as ItemView;
const bodies = Array.from({ length: 12 }, (_, i) => body(`b${i}`));
const part = { groups: [], looks: [], steps: [] } as unknown as Part;
/** The even ones are in the group Even, the first in Lone. */
const inGroups = (items: ItemView[]) => {
  const ids = items.map(({ id }) => id);
  return {
    ...part,
    groups: [
      { name: "Even", bodies: ids.filter((_, i) => i > 0 && i % 2 === 0) },
      { name: "Empty", bodies: [] },
      { name: "Lone", bodies: ids.slice(0, 1) },
    ],
  } as unknown as Part;
};

describe("what lies on the bench, in order", () => {
  test("groups behind their heads, bodies, what they were made with, what has served", () => {
    const items = [plane("p"), plane("served"), ...bodies];
    const places = (open: boolean) =>
      placesOf(items, inGroups(bodies), ({ id }) => id === "served", open).map(({ key }) => key);
    const before = [
      ...["group Even", "b2", "b4", "b6", "b8", "b10", "group Lone", "b0"],
      ...["b1", "b3", "b5", "b7", "b9", "b11", "p"],
    ];
    expect(places(false)).toEqual([...before, " served"]);
    expect(places(true)).toEqual([...before, "served", " served"]);
  });

  test("a group of n cards is as wide as its frame, its head, and n cards with what lies between", () => {
    const places = placesOf(bodies, inGroups(bodies), () => false, false);
    const even = places.filter(({ group }) => group === "Even");
    const width = even.reduce((sum, one) => sum + one.width, 0);
    expect(width).toBe(EDGE + HEAD + BETWEEN + 5 * CARD + 4 * BETWEEN + EDGE + FREE);
    expect(even.map(({ last }) => last)).toEqual([false, false, false, false, false, true]);
  });
});

test("whatever is in sight, every place stands where it would with all of them drawn", () => {
  const places = placesOf([...bodies, plane("p")], inGroups(bodies), () => false, false);
  const starts = places.map((_, i) => places.slice(0, i).reduce((sum, { width }) => sum + width, 0));
  const whole = places.reduce((sum, { width }) => sum + width, 0);
  for (let from = 0; from < places.length; from++)
    for (let to = from; to < places.length; to++) {
      const wanted = Array.from({ length: to - from + 1 }, (_, i) => from + i);
      const inSight = withHeads(places, wanted);
      expect(inSight).toEqual(expect.arrayContaining(wanted));
      const { drawn, after } = drawnOf(places, inSight);
      let at = 0;
      for (const frame of drawn) {
        at += frame.before;
        if (frame.group !== null) expect(frame.places[0]!.place.kind).toBe("head");
        for (const { before, place } of frame.places) {
          at += before;
          expect(at).toBe(starts[places.indexOf(place)]);
          expect(place.group).toBe(frame.group);
          at += place.width;
        }
        expect(frame.last).toBe(frame.places.at(-1)!.place.last);
      }
      expect(at + after).toBe(whole);
      expect(drawn.map(({ group }) => group).filter((group) => group !== null)).toEqual([
        ...new Set(inSight.map((i) => places[i]!.group).filter((group) => group !== null)),
      ]);
    }
});

test("a place that is no more is left out", () => {
  const places = placesOf(bodies, part, () => false, false);
  expect(withHeads(places, [1, 40])).toEqual([1]);
});

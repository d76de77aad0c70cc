import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { build } from "../testing/harness";
import { sampled } from "../testing/sample";
import { liesThere, SIZES, type Sizes, sized, thirtySteps, truths } from "../testing/thirty-steps";
import { type FoundReference, ResultCache } from ".";

type Steps = ReturnType<typeof thirtySteps>;
let steps: Steps;
beforeAll(async () => {
  await loadNodeKernel();
  steps = thirtySteps();
});

/** How the references of an edited part resolved, each held against where its dimensions say that it lies. */
interface Row {
  edit: string;
  tried: number;
  byName: number;
  byLooks: number;
  wrong: number;
  lost: number;
}

function tried(edit: string, all: Steps, changed: Partial<Sizes> = {}): { row: Row; built: ReturnType<typeof build> } {
  const places = truths({ ...SIZES, ...changed });
  const found = new Map<string, FoundReference[]>();
  const built = build(sized(all, changed), {
    onReference(reference) {
      const key = `${reference.step} ${reference.kind}`;
      found.set(key, [...(found.get(key) ?? []), reference]);
    },
  });
  const row: Row = { edit, tried: places.length, byName: 0, byLooks: 0, wrong: 0, lost: 0 };
  const count = new Map<string, number>();
  for (const truth of places) {
    const key = `${truth.step} ${truth.kind}`;
    const number = count.get(key) ?? 0;
    count.set(key, number + 1);
    const reference = found.get(key)?.[number];
    if (!reference) row.lost++;
    else if (!liesThere(reference.body, reference.place, truth)) row.wrong++;
    else if (reference.how === "name") row.byName++;
    else row.byLooks++;
  }
  return { row, built };
}

const at = (id: string) => steps.findIndex((step) => step.id === id);

/** The steps with one put in at a place. */
const inserted = (place: number, ...more: Steps) => [...steps.slice(0, place), ...more, ...steps.slice(place)];

/** The steps with two of them changing places. */
function swapped(a: string, b: string): Steps {
  const order = [...steps];
  [order[at(a)], order[at(b)]] = [steps[at(b)]!, steps[at(a)]!];
  return order;
}

/** The steps with a line of a sketch deleted and drawn again between the same points, with what was said of it said anew. */
function redrawn(sketch: string, line: string): Steps {
  const swap = (id: string) => (id === line ? `${line}-again` : id);
  return steps.map((step) => {
    if (step.id !== sketch) return step;
    const { entities, constraints, dimensions } = step as unknown as Record<string, { id: string; of: string[] }[]>;
    const again = (list: { id: string; of: string[] }[]) =>
      list.map((one) => (one.of.includes(line) ? { ...one, id: `${one.id}-again`, of: one.of.map(swap) } : one));
    const old = entities!.find(({ id }) => id === line)!;
    return {
      ...step,
      entities: [...entities!.filter(({ id }) => id !== line), { ...old, id: swap(line) }],
      constraints: again(constraints!),
      dimensions: again(dimensions!),
    };
  });
}

const extra = (id: string, type: string, more: object) => ({ id, type, ...more });

describe("a part of thirty steps", () => {
  test("is built without a warning", () => {
    expect(steps).toHaveLength(30);
    const { built, row } = tried("as made", steps);
    expect(built.steps.filter(({ state }) => state !== "good")).toEqual([]);
    expect(row).toEqual({ edit: "as made", tried: 22, byName: 22, byLooks: 0, wrong: 0, lost: 0 });
    expect(built.reports.map(({ valid, closed }) => valid && closed)).toEqual([true, true]);
  });

  test("what is picked is still what was meant after edits; the table says how it was found", () => {
    const rows: Row[] = [];
    const sizes = (Object.keys(SIZES) as (keyof Sizes)[]).flatMap((name) =>
      [0.5, 1.5].map((factor) => [name, factor] as const),
    );
    for (const [name, factor] of sampled(sizes, 3)) {
      const { row, built } = tried(`${name} × ${factor}`, steps, { [name]: SIZES[name] * factor });
      expect(
        built.steps.filter(({ state }) => state !== "good").map(({ id, error }) => [name, factor, id, error]),
      ).toEqual([]);
      rows.push(row);
    }
    const edge = { body: "plate:solid", edge: "plate:cap:base|plate:side:down" };
    const bite = extra("bite", "box", { size: [20, 10, 100], at: [-30, 50, -10] });
    const bitten = extra("bitten", "seam", {
      preset: "subtract",
      stock: ["plate"],
      cutters: ["bite"],
      keepCutters: false,
    });
    const edits: [string, Steps][] = [
      ["a body put in first", inserted(0, extra("alone", "sphere", { diameter: 9, at: [300, 0, 0] }))],
      ["a chamfer put in after the plate", inserted(2, extra("bottom", "chamfer", { edges: [edge], distance: 1 }))],
      ["a cut put in after the plate", inserted(2, bite, bitten)],
      ["a move of all put in before the holes", inserted(at("drilled"), extra("moved", "move", { bodies: ["slot"] }))],
      [
        "a rounding put in before the knob",
        inserted(
          at("knobOutline"),
          extra("soft", "fillet", {
            edges: [
              {
                body: "lugDrilled",
                print: { kind: "circle", at: [4, SIZES.depth / 2 + SIZES.lugOut / 2, SIZES.lugHigh] },
              },
            ],
            radius: 0.5,
          }),
        ),
      ],
      ...["down", "right", "up", "left"].flatMap((line): [string, Steps][] => [
        [`outline: ${line} drawn again`, redrawn("outline", line)],
        [`pocket: ${line} drawn again`, redrawn("pocketOutline", line)],
      ]),
      ["knob: up drawn again", redrawn("knobOutline", "up")],
      ["corners and rim swapped", swapped("corners", "rim")],
      ["lip and lug swapped", swapped("lip", "lug")],
      ["floor and middle swapped", swapped("floor", "middle")],
      ["slot and drill swapped", swapped("slot", "drill")],
      ["bore and rib swapped", swapped("bore", "rib")],
    ];
    for (const [edit, all] of sampled(edits, 3)) {
      const { row, built } = tried(edit, all);
      expect(
        built.steps
          .filter(({ state }) => !["good", "warned"].includes(state))
          .map(({ id, error }) => [edit, id, error?.message]),
      ).toEqual([]);
      expect(row.byLooks > 0, edit).toBe(built.steps.some(({ state }) => state === "warned"));
      rows.push(row);
    }
    const sum = (key: "tried" | "byName" | "byLooks" | "wrong" | "lost") =>
      rows.reduce((all, row) => all + row[key], 0);
    console.table(rows.filter(({ byLooks, wrong, lost }) => byLooks + wrong + lost > 0));
    console.table([
      {
        edits: rows.length,
        tried: sum("tried"),
        byName: sum("byName"),
        byLooks: sum("byLooks"),
        wrong: sum("wrong"),
        lost: sum("lost"),
      },
    ]);
    expect(sum("wrong")).toBe(0);
    expect(sum("byName") / sum("tried")).toBeGreaterThanOrEqual(0.95);
  });

  test("what was found by its looks can be kept: then its step names it, and nothing is left to warn of", () => {
    let all = redrawn("outline", "right");
    for (let round = 0; round < 10; round++) {
      const warning = build(sized(all)).steps.flatMap(({ warnings }) => warnings)[0];
      if (!warning) break;
      const { step, set } = warning.repair!;
      all = all.map((one) => (one.id === step ? { ...one, ...set } : one));
    }
    const { row, built } = tried("kept", all);
    expect(built.steps.every(({ state }) => state === "good")).toBe(true);
    expect(row).toMatchObject({ byName: row.tried, byLooks: 0, wrong: 0 });
  });

  test("a change of a value at step 5 evaluates what depends on it and nothing else", () => {
    const cache = new ResultCache();
    const before = build(sized(steps), { cache });
    const bored = steps.map((step) =>
      step.id === "boreOutline" ? { ...step, dimensions: [{ id: "d", type: "diameter", of: ["c"], value: 15 }] } : step,
    );
    const after = build(sized(bored), { cache });
    const anew = after.steps.filter(({ key }, i) => key !== before.steps[i]!.key).map(({ id }) => id);
    // Not: what comes before it, what is drawn on its own, and what stands by itself.
    const apart = [
      "outline",
      "plate",
      "postOutline",
      "post",
      "rib",
      "drill",
      "drills",
      "lug",
      "lugDrill",
      "knobOutline",
    ];
    expect(anew).toEqual(steps.map(({ id }) => id).filter((id) => !apart.includes(id)));
  });
});

import { beforeAll, describe, expect, test } from "vitest";
import type { FaceRef } from "@/core/references";
import { type Field, stepType } from "@/core/steps";
import { type BodyView, type Evaluation, isBodyView } from "@/engine/contract";
import { evaluated } from "@/engine/testing/evaluated";
import { accepts, afterPick } from "./picking";
import { faceRef } from "./refs";
import { foundIn } from "./whereabouts";

const fieldOf = (type: string, key: string): Field => stepType(type)!.fields.find((field) => field.key === key)!;
const FACES = fieldOf("offset-sheet", "faces");
const EDGES = fieldOf("fillet", "edges");
const STOCK = fieldOf("seam", "stock");
const CUTTERS = fieldOf("seam", "cutters");
const FLAT = fieldOf("workplane", "face");

const block = { id: "a", type: "box", size: [60, 40, 30] };
const pin = { id: "c", type: "cylinder", diameter: 10, height: 50, at: [0, 0, -10] };
let seen: Evaluation;
let body: BodyView;
beforeAll(async () => {
  seen = (await evaluated([block, pin, { id: "w", type: "workplane" }])).evaluation;
  body = seen.items.filter(isBodyView)[0]!;
});
const top = () => body.faces.findIndex(({ name }) => name === "a:side:z+");
const nothing = foundIn(null);

describe("what a click makes of a field", () => {
  test("a face goes in with its name and what it is, and out again", () => {
    const hit = { id: body.id, face: top() };
    const picked = afterPick(FACES, [], body, hit, seen.items, nothing) as FaceRef[];
    expect(picked).toMatchObject([{ body: "a:block", face: "a:side:z+", print: { kind: "plane", area: 2400 } }]);
    expect(afterPick(FACES, picked, body, hit, seen.items, nothing)).toEqual([]);
  });

  test("where one may be picked, the next takes its place", () => {
    const other = body.faces.findIndex(({ name }) => name === "a:side:x-");
    const one = afterPick(FLAT, [], body, { id: body.id, face: top() }, seen.items, nothing);
    const two = afterPick(FLAT, one, body, { id: body.id, face: other }, seen.items, nothing) as FaceRef[];
    expect(two.map(({ face }) => face)).toEqual(["a:side:x-"]);
  });

  test("a face that was found by its looks is taken out by a click on it, not picked twice", async () => {
    const lost: FaceRef = { ...faceRef(body, body.faces[top()]!), face: "gone:lid" };
    const { evaluation } = await evaluated([block, { id: "o", type: "offset-sheet", faces: [lost], distance: 2 }], "o");
    const before = evaluation.before!.filter(isBodyView)[0]!;
    const hit = { id: before.id, face: before.faces.findIndex(({ name }) => name === "a:side:z+") };
    expect(afterPick(FACES, [lost], before, hit, evaluation.before!, foundIn(evaluation))).toEqual([]);
  });

  test("a body that lives on in another is taken out by a click on that", async () => {
    const cut = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["c"], keepCutters: false };
    const move = { id: "m", type: "move", bodies: ["a:block"], by: [1, 0, 0] };
    const { evaluation } = await evaluated([block, pin, cut, move], "m");
    const [heir] = evaluation.before!;
    const field = fieldOf("move", "bodies");
    const found = foundIn(evaluation);
    expect(found.items(["a:block"])).toEqual([heir!.id]);
    expect(afterPick(field, ["a:block"], heir!, { id: heir!.id, face: null }, evaluation.before!, found)).toEqual([]);
  });
});

describe("what a field takes", () => {
  const at = (index: number) => seen.items[index]!;
  test("faces of its kind, edges, bodies; of cutters what is not the stock itself", () => {
    const cylinder = seen.items.filter(isBodyView)[1]!;
    const round = cylinder.faces.findIndex(({ kind }) => kind === "cylinder");
    expect(accepts(FLAT, cylinder, { id: cylinder.id, face: round }, [])).toBe(false);
    expect(accepts(FACES, cylinder, { id: cylinder.id, face: round }, [])).toBe(true);
    expect(accepts(EDGES, body, { id: body.id, face: null, edge: 0 }, [])).toBe(true);
    expect(accepts(EDGES, body, { id: body.id, face: 0 }, [])).toBe(false);
    const plane = seen.items.find(({ kind }) => kind === "workplane")!;
    expect(accepts(STOCK, plane, { id: plane.id, face: null }, [])).toBe(false);
    expect(accepts(CUTTERS, plane, { id: plane.id, face: null }, ["a"])).toBe(true);
    expect(accepts(CUTTERS, at(0), { id: at(0).id, face: null }, ["a"])).toBe(false);
  });
});

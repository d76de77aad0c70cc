import { fail } from "../../errors";
import { type Body, handlingOf, type Item } from "../../items";
import { inPlace } from "../../items/in-place";
import { freeShape, isConnected, sheetFromFaces } from "../../kernel";
import { faceNamesOf } from "../../naming";
import { type Elsewhere, evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { bringIn } from "./declare";
import { drawingOf } from "./drawing";

type Values = ValuesOf<typeof bringIn>;

export const evaluateBringIn = evaluates(bringIn, {
  // What it brings was weighed where it was made.
  weighed: () => true,
  evaluate(values, context) {
    const { part, items, faces, edges } = values;
    const { step } = context;
    if (part === "") fail("nothing-picked", "Pick the part to bring something in from.", { step, field: "part" });
    if (items.length + faces.length + edges.length === 0)
      fail("nothing-picked", "Pick what is brought in.", { step, field: "items" });
    const there = context.elsewhere();
    const made = there.items(items).map(
      (item): Item => ({
        ...handlingOf(item).copied(inPlace(item, there.lies), step, "of"),
        id: `${step}:of:${item.id}`,
        hint: { part, item: item.id },
      }),
    );
    if (faces.length > 0) made.push(...sheetsOf(values, there, context));
    if (edges.length > 0) made.push(drawingOf(edges, there, context));
    return { made, used: [] };
  },
});

/** Faces of the other part's bodies as sheets: of each body one of all that hang together, or one of each face. */
function sheetsOf({ faces, sheets }: Values, there: Elsewhere, { step, nameOf }: StepContext): Item[] {
  const wanted = new Map<Body, Set<number>>();
  for (const ref of faces) {
    const { body, faces: places } = there.faces(ref);
    const known = wanted.get(body) ?? new Set();
    for (const place of places) known.add(place);
    wanted.set(body, known);
  }
  return [...wanted].flatMap(([body, set]) => {
    const places = [...set].sort((a, b) => a - b);
    const groups = sheets === "each" ? places.map((place) => [place]) : [places];
    return groups.map((group): Item => {
      const { shape } = sheetFromFaces(body.shape, group);
      if (!isConnected(shape)) {
        freeShape(shape);
        fail(
          "faces-apart",
          `The picked faces of ${nameOf(body.id)} do not hang together. Pick neighbouring faces, or take a sheet of each.`,
          { step, field: "faces" },
        );
      }
      // By the first of its faces, in the body's own order: what is picked beside it leaves it what it is called.
      const id = `${step}:face:${body.faces[group[0]!]}`;
      const bases = group.map((place) => `${step}:of:${body.faces[place]}`);
      const sheet: Body = { id, kind: "sheet", shape, faces: faceNamesOf(shape, bases), hint: { text: "Sheet" } };
      const placed = inPlace(sheet, there.lies);
      freeShape(shape);
      return placed;
    });
  });
}

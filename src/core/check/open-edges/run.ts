import { openPlaces } from "../../kernel";
import { edgeLengthAt } from "../../kernel/facts/arc-length";
import { counted } from "../../words";
import { runs } from "../check-run";
import type { Found } from "../declare";
import { openEdgesCheck } from "./declare";

export const runOpenEdges = runs(openEdgesCheck, (_values, bodies) => {
  const open = bodies.flatMap(({ body, name }) => {
    const edges = openPlaces(body.shape);
    if (edges.length === 0) return [];
    const lengths = edges.map((place) => edgeLengthAt(body.shape, place));
    return [{ body, name, edges, long: lengths.reduce((sum, length) => sum + length, 0) }];
  });
  const count = open.reduce((sum, { edges }) => sum + edges.length, 0);
  const found = open.map(
    ({ body, name, edges, long }): Found => ({
      cells: [name, String(edges.length), { length: long }],
      body: body.id,
      faces: [],
      edges,
      // A sheet may end; a solid may not.
      bad: body.kind === "solid",
    }),
  );
  const solids = open.filter(({ body }) => body.kind === "solid").length;
  return {
    summary:
      count === 0
        ? `All ${counted(bodies.length, "body", "bodies")} are closed.`
        : `${counted(count, "open edge")} of ${counted(open.length, "body", "bodies")}${solids > 0 ? `, ${counted(solids, "solid")} among them` : ", all sheets"}.`,
    good: solids === 0,
    columns: ["Body", "Open edges", "Length"],
    found,
    lit: open.map(({ body, edges }) => ({ body: body.id, faces: [], edges })),
    bands: [],
    paint: [],
  };
});

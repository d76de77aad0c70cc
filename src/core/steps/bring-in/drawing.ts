import { fail } from "../../errors";
import { hashText } from "../../hash";
import type { Body, Item } from "../../items";
import { inPlace } from "../../items/in-place";
import {
  alongEdge,
  cross,
  dot,
  type EdgeFacts,
  length,
  type PlaneFrame,
  projectEdges,
  scale,
  squareTo,
  sub,
  unit,
  type Vec3,
} from "../../kernel";
import { topologyNames } from "../../naming";
import type { EdgeRef } from "../../references";
import { type Entity, givenEntities } from "../../sketch";
import { SAME_PLACE, SAME_WAY } from "../../tolerance";
import { formatDeviation } from "../../units";
import type { Elsewhere, StepContext } from "../evaluation";

/** Edges of the other part's bodies, which have to lie in one plane, as a drawing in that. @throws SeamError */
export function drawingOf(edges: readonly EdgeRef[], there: Elsewhere, { step, warn, nameOf }: StepContext): Item {
  const found = edges.map((ref) => there.edge(ref));
  const frame = planeOf(found);
  if (!frame)
    fail(
      "edges-not-flat",
      "The picked edges do not lie in one plane, so they are no drawing. Bring in their body, and pick its edges here.",
      { step, field: "edges" },
    );
  const wanted = new Map<Body, Set<number>>();
  for (const { body, edge } of found) wanted.set(body, (wanted.get(body) ?? new Set()).add(edge));
  const seen = new Map<string, number>();
  const entities = [...wanted].flatMap(([body, set]) => {
    const places = [...set].sort((a, b) => a - b);
    const names = topologyNames(body.shape, body.faces).edges;
    return projectEdges(body.shape, places, frame).flatMap((curve, i): Entity[] => {
      if (!curve) return [];
      if (!curve.exact && curve.deviation > SAME_PLACE)
        warn({
          code: "given-approximate",
          message: `An edge of ${nameOf(body.id)} has no exact form in a drawing: it is drawn to within ${formatDeviation(curve.deviation)}.`,
          step,
          bodies: [body.id],
        });
      const name = names[places[i]!] ?? String(i);
      const number = (seen.get(name) ?? 0) + 1;
      seen.set(name, number);
      // An edge that lies in the plane is seen as it is.
      return givenEntities(`e${hashText(name).slice(0, 7)}${number > 1 ? `_${number}` : ""}`, curve, false);
    });
  });
  const drawing: Item = { id: `${step}:edges`, kind: "sketch", frame, entities, given: [], hint: { text: "Edges" } };
  return inPlace(drawing, there.lies);
}

/** Of the way along an edge: as many places of it are held against the plane. */
const ALONG = [0, 0.13, 0.29, 0.41, 0.5, 0.63, 0.77, 0.89, 1];

/** The plane that edges lie in, through places of theirs; null where they do not lie in one. A straight line lies in many: one of them. */
function planeOf(edges: readonly { body: Body; edge: number; facts: EdgeFacts }[]): PlaneFrame | null {
  const places = edges.flatMap(({ body, edge, facts }) =>
    facts.kind === "line" ? facts.ends : ALONG.map((along) => alongEdge(body.shape, edge, along * facts.length).at),
  );
  const origin = places[0]!;
  const round = edges.find(({ facts }) => facts.kind === "circle")?.facts.direction;
  const normal = round ?? normalOf(places) ?? squareTo(unit(sub(edges[0]!.facts.ends[1], edges[0]!.facts.ends[0])));
  const size = Math.max(...places.map((at) => length(sub(at, origin))), 1);
  if (places.some((at) => Math.abs(dot(sub(at, origin), normal)) > SAME_PLACE * size)) return null;
  // Looked at from where more of it looks up, so that what is drawn reads as it lies.
  const [x, y, z] = normal;
  const back = z < -SAME_WAY || (Math.abs(z) <= SAME_WAY && (y < -SAME_WAY || (Math.abs(y) <= SAME_WAY && x < 0)));
  const up = back ? scale(normal, -1) : normal;
  return { origin, normal: up, x: squareTo(up) };
}

/** The normal of the plane that places span as well as any three of them; null where they lie in a line. */
function normalOf(places: readonly Vec3[]): Vec3 | null {
  const [origin] = places;
  const from = places.map((at) => sub(at, origin!));
  const far = from.reduce((best, v) => (length(v) > length(best) ? v : best));
  const square = from.map((v) => cross(far, v)).reduce((best, v) => (length(v) > length(best) ? v : best));
  return length(square) > SAME_WAY * length(far) ** 2 ? unit(square) : null;
}

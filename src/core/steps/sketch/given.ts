import { hashText } from "../../hash";
import type { Body } from "../../items";
import { edgeNeighbourhoods, type PlaneFrame, type ProjectedEdge, projectEdges, sectionCurves } from "../../kernel";
import { topologyNames } from "../../naming";
import type { EdgeRef, FaceRef } from "../../references";
import { type Entity, givenEntities } from "../../sketch";
import { SAME_PLACE } from "../../tolerance";
import { formatDeviation } from "../../units";
import type { StepContext } from "../evaluation";

interface Values {
  edges: EdgeRef[];
  outlines: FaceRef[];
  sections: string[];
  asOutlines: boolean;
}

/** A curve that a body gives, under the name of what it comes from: the same name gives the same ids after an edit. */
interface Source {
  name: string;
  curve: ProjectedEdge;
  from: Body;
}

/** What bodies give a sketch to draw by: edges and faces seen square to its plane, and sections by it. */
export function givenBy(
  { edges, outlines, sections, asOutlines }: Values,
  frame: PlaneFrame,
  context: StepContext,
): Entity[] {
  const sources = [
    ...seenEdges(edges, outlines, frame, context),
    ...context.bodies(sections).flatMap((body) => {
      const curves = sectionCurves(body.shape, frame);
      if (curves.length === 0)
        context.warn({
          code: "section-empty",
          message: `The plane of the sketch does not cut ${context.nameOf(body.id)}.`,
          step: context.step,
          bodies: [body.id],
        });
      return curves.map(({ face, curve }): Source => ({ name: `cut ${body.faces[face]}`, curve, from: body }));
    }),
  ];
  warnOfDeviation(sources, context);
  const seen = new Map<string, number>();
  return sources.flatMap(({ name, curve }) => {
    const number = (seen.get(name) ?? 0) + 1;
    seen.set(name, number);
    const id = `g${hashText(name).slice(0, 7)}${number > 1 ? `_${number}` : ""}`;
    return givenEntities(id, curve, !asOutlines);
  });
}

/** Each edge once, whether it was picked itself or with a face. */
function seenEdges(
  edges: readonly EdgeRef[],
  outlines: readonly FaceRef[],
  frame: PlaneFrame,
  context: StepContext,
): Source[] {
  const wanted = new Map<Body, Set<number>>();
  const want = (body: Body, edge: number) => wanted.set(body, (wanted.get(body) ?? new Set()).add(edge));
  for (const ref of edges) {
    const { body, edge } = context.edge(ref);
    want(body, edge);
  }
  for (const ref of outlines) {
    const { body, face } = context.face(ref);
    edgeNeighbourhoods(body.shape).edges.forEach((place, edge) => {
      if (place?.faces.includes(face)) want(body, edge);
    });
  }
  return [...wanted].flatMap(([body, set]) => {
    const places = [...set].sort((a, b) => a - b);
    const names = topologyNames(body.shape, body.faces).edges;
    return projectEdges(body.shape, places, frame).flatMap((curve, i) => {
      const name = names[places[i]!];
      return curve && name ? [{ name, curve, from: body }] : [];
    });
  });
}

function warnOfDeviation(sources: readonly Source[], context: StepContext): void {
  const worst = sources.reduce<{ by: number; from: Body | null }>(
    (most, { curve, from }) => (!curve.exact && curve.deviation > most.by ? { by: curve.deviation, from } : most),
    { by: 0, from: null },
  );
  if (worst.from && worst.by > SAME_PLACE)
    context.warn({
      code: "given-approximate",
      message: `A curve of ${context.nameOf(worst.from.id)} has no exact form in this plane: it is drawn to within ${formatDeviation(worst.by)}.`,
      step: context.step,
      bodies: [worst.from.id],
    });
}

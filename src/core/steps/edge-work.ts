import { z } from "zod";
import { fail } from "../errors";
import { allEdgeFacts, freeShape, type Worked, type WorkFault } from "../kernel";
import { type Body, edgeRefSchema, faceNamesOf, topologyNames } from "../naming";
import { formatLength } from "../units";
import { largestThat } from "./largest";
import type { StepContext, StepOutcome } from "./step";

/** The edges that a step works on. */
export const edgesField = z
  .array(edgeRefSchema)
  .max(500)
  .default([])
  .describe("The edges; what runs smoothly on from them is worked, too");

/** How one kind of work is done on edges of one body, by place, at a size, mm. */
export type Work = (body: Body, places: readonly number[], size: number) => Worked | WorkFault;

/**
 * Works picked edges, body by body. Each body stays the one it was, under its id, with new faces for its edges.
 * What cannot be done says which edges are to blame and offers the largest size that can.
 *
 * @param word what the new faces are called in names. @param noun what the size is called.
 * @throws SeamError
 */
export function workEdges(
  refs: readonly z.infer<typeof edgeRefSchema>[],
  size: number,
  { word, noun, field, work }: { word: string; noun: string; field: string; work: Work },
  context: StepContext,
): StepOutcome {
  const { step } = context;
  if (refs.length === 0) fail("nothing-picked", "Pick the edges.", { step });
  const byBody = new Map<Body, Set<number>>();
  for (const ref of refs) {
    const { body, edge } = context.edge(ref);
    byBody.set(body, (byBody.get(body) ?? new Set()).add(edge));
  }
  const made: Body[] = [];
  for (const [body, set] of byBody) {
    const places = [...set].sort((a, b) => a - b);
    const done = work(body, places, size);
    if ("faulty" in done) {
      for (const other of made) freeShape(other.shape);
      refuse(body, places, done, size, noun, field, work, context);
    }
    made.push({ ...body, shape: done.shape, faces: namesOf(body, done, `${step}:${word}`) });
  }
  return { made, used: made.map(({ id }) => id) };
}

/** Faces keep their names; a new one is named by the edge or corner that it stands for. */
function namesOf(body: Body, { shape, origins }: Worked, prefix: string): string[] {
  const names = topologyNames(body.shape, body.faces);
  const bases = origins.map(({ from, place }) =>
    from === "face"
      ? (body.faces[place] ?? `${prefix}:other`)
      : `${prefix}:${from === "edge" ? names.edges[place] : names.vertices[place]}`,
  );
  return faceNamesOf(shape, bases);
}

function refuse(
  body: Body,
  places: readonly number[],
  { faulty }: WorkFault,
  size: number,
  noun: string,
  field: string,
  work: Work,
  context: StepContext,
): never {
  const blamed = faulty.find((place) => places.includes(place)) ?? faulty[0] ?? places[0]!;
  const facts = allEdgeFacts(body.shape)[blamed];
  const fits = (trial: number): boolean => {
    const done = work(body, places, trial);
    if ("faulty" in done) return false;
    freeShape(done.shape);
    return true;
  };
  const most = largestThat(fits, size);
  const edge = facts ? `the edge of ${context.nameOf(body.id)} that is ${formatLength(facts.length)} long` : "an edge";
  fail(
    "edge-work",
    most === null
      ? `The ${noun} of ${formatLength(size)} does not fit at ${edge}, and no smaller one does. Pick fewer edges, or work its neighbours first.`
      : `The ${noun} of ${formatLength(size)} is too large at ${edge}. Up to ${formatLength(most)} fits.`,
    {
      step: context.step,
      field,
      bodies: [body.id],
      ...(facts ? { at: [...facts.at] as [number, number, number] } : {}),
      ...(most === null
        ? {}
        : { repair: { label: `Make it ${formatLength(most)}`, step: context.step, set: { [field]: most } } }),
    },
  );
}

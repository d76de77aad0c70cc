import type * as z from "zod";
import { fail } from "../../../errors";
import type { Body } from "../../../items";
import { allEdgeFacts, closingLines, freeShape, type Worked, type WorkFault } from "../../../kernel";
import { faceNamesOf, topologyNames } from "../../../naming";
import type { edgeRefSchema } from "../../../references";
import { formatLength } from "../../../units";
import type { StepContext, StepOutcome } from "../../evaluation";
import { refuseBriefly } from "../briefly";
import { largestThat } from "../largest";

/** Edges of one body, by place, that are worked at one size, mm. */
export interface EdgeGroup {
  places: readonly number[];
  size: number;
}

/** How one kind of work is done on groups of edges of one body. */
export type Work = (body: Body, groups: readonly EdgeGroup[]) => Worked | WorkFault;

/** Picked edges that are worked at one size, mm, and the field of the step that holds it. */
export interface PickedGroup {
  refs: readonly z.infer<typeof edgeRefSchema>[];
  size: number;
  field: string;
}

/**
 * Works picked edges, body by body. Each body stays the one it was, under its id, with new faces for its edges.
 * What cannot be done says which edges are to blame and offers the largest size that can. An edge that is picked for two
 * sizes takes the first.
 *
 * @param word what the new faces are called in names. @param noun what the size is called.
 * @throws SeamError
 */
export function workEdges(
  groups: readonly PickedGroup[],
  { word, noun, work }: { word: string; noun: string; work: Work },
  context: StepContext,
): StepOutcome {
  const { step } = context;
  if (groups.every(({ refs }) => refs.length === 0)) fail("nothing-picked", "Pick the edges.", { step });
  const byBody = new Map<Body, Map<number, number>>();
  for (const [g, { refs }] of groups.entries())
    for (const ref of refs) {
      const { body, edge } = context.edge(ref);
      const own = byBody.get(body) ?? new Map<number, number>();
      byBody.set(body, own);
      if (!own.has(edge)) own.set(edge, g);
    }
  for (const [body, own] of byBody) leaveOutClosingLines(body, own, context);
  const made: Body[] = [];
  for (const [body, own] of byBody) {
    const sized = groups.map(({ size }, g): EdgeGroup => {
      const places = [...own].flatMap(([place, group]) => (group === g ? [place] : []));
      return { places: places.sort((a, b) => a - b), size };
    });
    const done = work(body, sized);
    if ("faulty" in done) {
      for (const other of made) freeShape(other.shape);
      refuse(body, sized, groups, done, noun, work, context);
    }
    made.push({ ...body, shape: done.shape, faces: namesOf(body, done, `${step}:${word}`) });
  }
  return { made, used: made.map(({ id }) => id) };
}

/**
 * Lines at which a round face closes on itself are no edges. With all edges of a body they are picked, too, and nothing is to be
 * done there; picked alone they are told. @throws SeamError where no edge is left.
 */
function leaveOutClosingLines(body: Body, own: Map<number, number>, context: StepContext): void {
  const lines = closingLines(body.shape);
  const none = [...own.keys()].filter((place) => lines.has(place));
  for (const place of none) own.delete(place);
  if (own.size > 0) return;
  const facts = allEdgeFacts(body.shape)[none[0]!];
  const [what, why] =
    none.length === 1 ? ["The picked line", "it is where its"] : ["The picked lines", "they are where a"];
  fail(
    "no-edge",
    `${what} of ${context.nameOf(body.id)} cannot be worked: ${why} round face closes on itself, and no edge. Pick another.`,
    {
      step: context.step,
      bodies: [body.id],
      ...(facts ? { at: [...facts.at] as [number, number, number] } : {}),
    },
  );
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
  sized: readonly EdgeGroup[],
  groups: readonly PickedGroup[],
  { faulty }: WorkFault,
  noun: string,
  work: Work,
  context: StepContext,
): never {
  const all = sized.flatMap(({ places }) => places);
  const blamed = faulty.find((place) => all.includes(place)) ?? faulty[0] ?? all[0]!;
  const found = sized.findIndex(({ places }) => places.includes(blamed));
  const blame = found < 0 ? sized.findIndex(({ places }) => places.length > 0) : found;
  const { size, field } = groups[blame]!;
  refuseBriefly(context, "edge-work", field, body.id);
  const facts = allEdgeFacts(body.shape)[blamed];
  const fits = (trial: number): boolean => {
    const done = work(
      body,
      sized.map((group, g) => (g === blame ? { ...group, size: trial } : group)),
    );
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

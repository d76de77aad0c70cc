import { type Job, liesIn, linkOf, type Part, standing, standsOf } from "@/core/job";
import { isIdentity, movedBy, numbersOf, type Transform, turnedBy } from "@/core/place";
import type { EdgeRef, FaceRef } from "@/core/references";
import { type BodyView, type Evaluation, type ItemView, isBodyView, type ViewMesh } from "@/engine/contract";
import { type DrawnBody, plainBody } from "../viewport/drawn";
import { hatchOf } from "../viewport/hatch";
import { lookOf } from "./looks";
import { colourOf } from "./tints";
import type { WorkspaceStore } from "./workspace-store";

/** What lies on the bench of another part, as far as it is known. */
export interface OtherPart {
  /** Of what it was built: while that is the same, it is. */
  key: string;
  items: readonly ItemView[];
  meshes: ReadonlyMap<string, ViewMesh>;
  /** Why it could not be built, or not whole; null where nothing is wrong. */
  trouble: string | null;
}

/** What goes with looking at the whole job: what is about the one part is put away. */
export const SEE_WHOLE = {
  whole: true,
  stage: null,
  selected: null,
  selectedFace: null,
  hover: null,
  menu: null,
  measuring: null,
  checking: null,
  comparing: null,
  alone: null,
  parametersOpen: false,
} as const;
export const LEAVE_WHOLE = { whole: false, putting: null, selected: null, hover: null } as const;

/** Where a part stands: which part, and at which of its places (empty for its own). */
export interface StandKey {
  part: string;
  at: string;
}

export const standKey = ({ part, at }: StandKey): string => `${part}/${at}`;

/** The id by which a body of a stand is drawn: no item of the bench has one like it. */
export const drawnId = (stand: StandKey, item: string): string => `@${standKey(stand)}/${item}`;

/** The stand, and the item there, that something is drawn for; null where it is of the part that is worked on. */
export function standOf(id: string | null | undefined): (StandKey & { item: string }) | null {
  const found = /^@([^/]*)\/([^/]*)\/(.*)$/.exec(id ?? "");
  return found ? { part: found[1]!, at: found[2]!, item: found[3]! } : null;
}

export type Choices = Pick<
  WorkspaceStore,
  | "editing"
  | "whole"
  | "around"
  | "others"
  | "evaluation"
  | "meshes"
  | "standsHidden"
  | "standsClear"
  | "standAlone"
  | "hidden"
>;

/** Whether a stand is left out of the view. */
export const isStandOut = (
  stand: StandKey,
  { standsHidden, standAlone }: Pick<Choices, "standsHidden" | "standAlone">,
) => (standAlone === null ? standsHidden.has(standKey(stand)) : standAlone !== standKey(stand));

/** The bodies that are drawn of all parts where they stand: in the whole job, or round the part that is worked on, dimmed. */
export function drawOthers(
  state: Choices,
  job: Job,
  part: Part,
  dark: boolean,
  lit: Lit | null,
  /** A stand that is to be seen elsewhere than it is. */
  moved: { stand: StandKey; to: Transform } | null = null,
): DrawnBody[] {
  if (!state.whole && !state.around) return [];
  const picks = picksOf(state);
  return job.parts.flatMap((other) => {
    const there = benchOf(state, part, other);
    if (!there) return [];
    return standsOf(other).flatMap(({ at }) => {
      const stand = { part: other.id, at };
      const isOwn = other.id === part.id && at === "";
      if ((isOwn && !state.whole) || isStandOut(stand, state)) return [];
      const lies =
        moved && standKey(moved.stand) === standKey(stand)
          ? { transform: moved.to }
          : state.whole
            ? standing(job, other, at)
            : liesIn(job, { from: other, at, to: part });
      if ("problem" in lies) return [];
      const brought = broughtAsItIs(job, other);
      return there.items.flatMap((item): DrawnBody[] => {
        // It stands in its own part, and is seen there.
        if (brought.has(item.step)) return [];
        const mesh = isBodyView(item) ? there.meshes.get(item.meshId) : undefined;
        if (!isBodyView(item) || !mesh || (isOwn && state.hidden.has(item.id))) return [];
        return [
          plainBody(drawnId(stand, item.id), placedMesh(mesh, lies.transform), {
            solid: item.measures.closed,
            look: !state.whole ? "ghost" : state.standsClear.has(standKey(stand)) ? "clear" : "body",
            colour: colourOf(item.id, lookOf(other, item), there.items as ItemView[], dark),
            hatch: hatchOf(lookOf(other, item).material),
            faces: [
              ...(lit && lit.part === other.id && lit.at === at && lit.body === item.id ? lit.faces : []),
              ...placesOf(item.faces, picks(stand, item.id, "faces")),
            ],
            edges: placesOf(item.edges, picks(stand, item.id, "edges")),
          }),
        ];
      });
    });
  });
}

/** The steps of a part that bring in what another part of the job has: linked to it. */
const broughtAsItIs = (job: Job, { steps }: Part): ReadonlySet<string> =>
  new Set(
    steps.flatMap((step) => {
      const link = linkOf(step);
      return link && !link.loose && job.parts.some(({ id }) => id === link.part) ? [step.id] : [];
    }),
  );

/** The body of another part that a hit is on, where a field picks of that part; null else. */
export function otherHit(
  { editing, others }: Pick<WorkspaceStore, "editing" | "others">,
  hit: { id: string },
): BodyView | null {
  const stand = standOf(hit.id);
  const step = editing?.step;
  if (!stand || !step || stand.part !== step.part || stand.at !== (step.at ?? "")) return null;
  const item = others.get(stand.part)?.items.find(({ id }) => id === stand.item);
  return item && isBodyView(item) ? item : null;
}

/** By place: those of some names. */
const placesOf = (list: readonly ({ name: string } | null)[], names: readonly (string | undefined)[]): number[] =>
  names.length === 0 ? [] : list.flatMap((one, i) => (one && names.includes(one.name) ? [i] : []));

/** What the open step picks of a body of another part, by name. */
function picksOf({ editing }: Pick<WorkspaceStore, "editing">) {
  const step = editing?.step;
  return (stand: StandKey, body: string, of: "faces" | "edges"): (string | undefined)[] => {
    if (step?.type !== "bring-in" || step.part !== stand.part || (step.at ?? "") !== stand.at) return [];
    const refs = (step[of] ?? []) as (FaceRef & EdgeRef)[];
    return refs.flatMap((ref) => (ref.body === body ? [ref.face ?? ref.edge] : []));
  };
}

/** What of a stand lights up. */
export interface Lit extends StandKey {
  body: string;
  faces: number[];
}

/** What is known of a part's bench: of the one that is worked on what is shown. */
function benchOf(state: Choices, part: Part, other: Part): Pick<OtherPart, "items" | "meshes"> | null {
  if (other.id !== part.id) return state.others.get(other.id) ?? null;
  return state.evaluation ? { items: state.evaluation.items, meshes: state.meshes } : null;
}

const placed = new WeakMap<ViewMesh, Map<string, ViewMesh>>();
/** As many places of one mesh are kept. */
const PLACES = 50;

/** A mesh as it lies by a transform: made once for each. */
export function placedMesh(mesh: ViewMesh, transform: Transform): ViewMesh {
  if (isIdentity(transform)) return mesh;
  const key = numbersOf(transform).join();
  const known = placed.get(mesh) ?? new Map<string, ViewMesh>();
  placed.set(mesh, known);
  let made = known.get(key);
  if (!made) {
    if (known.size >= PLACES) known.clear();
    made = {
      ...mesh,
      positions: mapped(mesh.positions, (at) => movedBy(transform, at)),
      normals: mapped(mesh.normals, (at) => turnedBy(transform, at)),
      lines: mapped(mesh.lines, (at) => movedBy(transform, at)),
    };
    known.set(key, made);
  }
  return made;
}

function mapped(
  points: Float32Array,
  change: (at: [number, number, number]) => readonly [number, number, number],
): Float32Array {
  const made = new Float32Array(points.length);
  for (let i = 0; i < points.length; i += 3) made.set(change([points[i]!, points[i + 1]!, points[i + 2]!]), i);
  return made;
}

/** What was built of another part, as it is kept for the view. */
export function otherPart(key: string, evaluation: Evaluation, meshes: ReadonlyMap<string, ViewMesh>): OtherPart {
  const failed = evaluation.steps.filter(({ state }) => state === "failed").length;
  return {
    key,
    items: evaluation.items,
    meshes,
    trouble: failed > 0 ? `${failed === 1 ? "A step" : `${failed} steps`} could not be built` : null,
  };
}

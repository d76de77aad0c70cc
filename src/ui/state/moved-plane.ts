import same from "fast-deep-equal/es6";
import type { Job, Step } from "@/core/job";
import { resolveStep } from "@/core/steps";
import type { Evaluation, PieceView } from "@/engine/contract";
import { withDragged } from "./handles";
import { scopeIn, withOpenStep } from "./open-values";
import type { WorkspaceStore } from "./workspace-store";

type Vec3 = readonly [number, number, number];

/** A plane that cuts, where it has been moved to since what is shown was made. */
export interface MovedPlane {
  id: string;
  origin: Vec3;
  normal: Vec3;
}

/**
 * The one plane that has been moved since what is shown was made, where nothing else has changed: pieces can be shown by triangles then,
 * before the exact ones are there.
 * @param then the job that what is shown is of. @param now as it is, with what is being dragged.
 */
export function movedPlane(
  evaluation: Pick<Evaluation, "before"> | null,
  then: Job | null,
  now: Job,
  part: string,
): MovedPlane | null {
  if (!evaluation?.before || !then || then === now) return null;
  const others = (job: Job) => job.parts.filter(({ id }) => id !== part);
  if (!same(others(then), others(now))) return null;
  const [old, fresh] = [stepsOf(then, part), stepsOf(now, part)];
  if (!old || !fresh || old.length !== fresh.length) return null;
  const changed = fresh.flatMap((step, i) => (same(step, old[i]) ? [] : [[old[i]!, step] as const]));
  const [[before, after] = [], ...more] = changed;
  if (!before || !after || more.length > 0 || after.type !== "workplane") return null;
  if (!same({ ...before, offset: 0 }, { ...after, offset: 0 })) return null;
  const by = Number(after.offset) - Number(before.offset);
  const plane = evaluation.before.find((item) => item.step === after.id);
  if (plane?.kind !== "workplane" || !Number.isFinite(by)) return null;
  // Turned round, its front looks against the way in which its offset grows.
  const way = after.flip === true ? -by : by;
  const { id, origin, normal } = plane;
  return { id, normal, origin: origin.map((value, k) => value + way * normal[k]!) as unknown as Vec3 };
}

/** The steps of a part with numbers for formulas; null where one has none. */
function stepsOf(job: Job, part: string): Step[] | null {
  const scope = scopeIn(job, part);
  const steps = job.parts.find(({ id }) => id === part)?.steps.map((step) => resolveStep(step, scope));
  if (!steps || steps.some(({ problems }) => Object.keys(problems).length > 0)) return null;
  return steps.map(({ step }) => step as Step);
}

/** How a moved plane parts a piece: on which side of it the piece keeps its own look, and whose look the rest has. */
export interface Parting {
  plane: MovedPlane;
  side: "front" | "back";
  /** The piece across the plane; null where there is none. */
  rest: PieceView | null;
}

/** The parting of a piece by a moved plane; null where all of the piece still lies on its side of it, or no side is known. */
export function partingOf(piece: PieceView, pieces: readonly PieceView[], plane: MovedPlane): Parting | null {
  const side = piece.sides[plane.id];
  const { box } = piece.measures;
  if ((side !== "front" && side !== "back") || !box) return null;
  // The corner that lies farthest over on the other side.
  const sign = side === "front" ? 1 : -1;
  const least = plane.normal.reduce((sum, n, k) => {
    const worst = sign * n > 0 ? box.min[k]! : box.max[k]!;
    return sum + sign * n * (worst - plane.origin[k]!);
  }, 0);
  const others = piece.neighbours.flatMap((index) => pieces[index] ?? []);
  const across = others.filter((other) => other.sides[plane.id] !== undefined && other.sides[plane.id] !== side);
  const alike = (other: PieceView) =>
    Object.entries(other.sides).every(([id, where]) => id === plane.id || piece.sides[id] === where);
  const rest = across.find(alike) ?? across[0] ?? null;
  return least >= 0 ? null : { plane, side, rest };
}

type State = Pick<WorkspaceStore, "late" | "editing" | "dragged" | "part" | "evaluation" | "evaluatedJob">;

/** The plane that is being moved while what is exact keeps somebody waiting; null where the picture is exact, or cannot follow. */
export function followed(
  { late, editing, dragged, part, evaluation, evaluatedJob }: State,
  job: Job,
): MovedPlane | null {
  if (!late || editing?.step.type !== "seam") return null;
  const now = withOpenStep(withDragged(job, part, dragged), part, editing);
  return movedPlane(evaluation, evaluatedJob, now, part);
}

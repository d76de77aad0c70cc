import { type Job, type Part, scopeOf } from "@/core/job";
import { toDegrees, toMm } from "@/core/params";
import { after, IDENTITY, ofTurn, type Transform } from "@/core/place";
import type { FaceRef } from "@/core/references";
import { resolveStep } from "@/core/steps";
import { isBodyView } from "@/engine/contract";
import { type DrawnBody, plainBody } from "../viewport/drawn";
import { hatchOf } from "../viewport/hatch";
import { lookOf } from "./looks";
import { placedMesh } from "./others";
import { foundIn } from "./whereabouts";
import type { WorkspaceStore } from "./workspace-store";

type Vec = readonly [number, number, number];
const AXES: Record<string, Vec> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** The body of the open step where it is on its way, while that is played; null else, and where it cannot be told. */
export function onItsWay(
  state: Pick<WorkspaceStore, "editing" | "playing" | "evaluation" | "meshes">,
  job: Job,
  part: Part,
): DrawnBody | null {
  const { editing, playing, evaluation, meshes } = state;
  if (editing?.step.type !== "motion" || playing === null) return null;
  const { step, problems } = resolveStep(editing.step, scopeOf(job, part));
  if (Object.keys(problems).length > 0) return null;
  const items = evaluation?.before ?? evaluation?.items ?? [];
  const [body] = foundIn(evaluation).items(step.body as string[]);
  const item = items.find((one) => one.id === body || one.step === body);
  const mesh = item && isBodyView(item) ? meshes.get(item.meshId) : undefined;
  if (!item || !isBodyView(item) || !mesh) return null;
  const transform = poseAt(step.moves as MoveValues[], playing, () => axisIn(items, step.axis as FaceRef[]));
  if (!transform) return null;
  const look = lookOf(part, item);
  return plainBody("on its way", placedMesh(mesh, transform), { colour: "#c9a14a", hatch: hatchOf(look.material) });
}

/** A move, its numbers worked out. */
interface MoveValues {
  how: "straight" | "turn";
  by: [number, number, number];
  turn: number;
  about: string;
  through: [number, number, number];
}

/** Where a body is after a part of its way, of which each move is as much; null where the axis of a turn is not known. */
export function poseAt(
  moves: readonly MoveValues[],
  part: number,
  axis: () => { at: Vec; axis: Vec } | null,
): Transform | null {
  const reached = part * moves.length;
  let pose = IDENTITY;
  for (const [i, { how, by, turn, about, through }] of moves.entries()) {
    const share = Math.max(0, Math.min(1, reached - i));
    if (share === 0) break;
    if (how === "straight") {
      const way = by.map((value) => share * toMm(value)) as [number, number, number];
      pose = after({ ...IDENTITY, by: way }, pose);
      continue;
    }
    const line = about === "face" ? axis() : { at: through.map(toMm) as unknown as Vec, axis: AXES[about]! };
    if (!line) return null;
    const angle = (share * toDegrees(turn) * Math.PI) / 180;
    pose = after(ofTurn({ about: line.at, axis: line.axis, angle, by: [0, 0, 0] }), pose);
  }
  return pose;
}

function axisIn(items: readonly unknown[], [ref]: FaceRef[]): { at: Vec; axis: Vec } | null {
  for (const item of items as { faces?: { name: string; axisAt?: Vec; direction?: Vec }[] }[]) {
    const face = ref && item.faces?.find(({ name }) => name === ref.face);
    if (face?.axisAt && face.direction) return { at: face.axisAt, axis: face.direction };
  }
  return null;
}

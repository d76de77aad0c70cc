import { type Job, type Part, scopeOf } from "@/core/job";
import { poseOnWay } from "@/core/motion/pose";
import type { FaceRef } from "@/core/references";
import { resolveStep } from "@/core/steps";
import { movesFrom, movesOfWay } from "@/core/steps/motion/ways";
import type { Contact } from "@/core/triangles";
import { isBodyView } from "@/engine/contract";
import { type DrawnBody, plainBody } from "../viewport/drawn";
import { hatchOf } from "../viewport/hatch";
import { lookOf } from "./looks";
import { placedMesh } from "./others";
import { foundIn } from "./whereabouts";
import type { WorkspaceStore } from "./workspace-store";

type Vec = readonly [number, number, number];

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
  const axis = axisIn(items, step.axis as FaceRef[]);
  const written = movesOfWay(step as never);
  if (!axis && written.some(({ how, about }) => how === "turn" && about === "face")) return null;
  const moves = movesFrom(written, () => axis!);
  const look = lookOf(part, item);
  return plainBody("on its way", placedMesh(mesh, poseOnWay(moves, playing)), {
    colour: "#c9a14a",
    hatch: hatchOf(look.material),
  });
}

/** How what is touched is drawn, beside a ring at the place. */
export const TOUCHED = "#b5402f";

/** A hundredth of a percent of the way: the slider stops no nearer. */
const NEAR = 1e-4;

type Looked = Pick<WorkspaceStore, "contacts" | "evaluatedJob">;

/** What was found of the way that is shown; null while that is looked for. */
export const contactsOf = ({ contacts, evaluatedJob }: Looked): WorkspaceStore["contacts"] =>
  contacts?.job === evaluatedJob ? contacts : null;

/** What the body is in where it is on its way now. */
export const touchedNow = ({ playing, ...state }: Pick<WorkspaceStore, "playing"> & Looked): Contact[] =>
  (contactsOf(state)?.found?.contacts ?? []).filter(
    (contact) =>
      playing !== null && !isAllAlong(contact) && playing > contact.from - NEAR && playing < contact.to + NEAR,
  );

/** Whether it is in it from the beginning to the end: what it carries, or is carried by. */
export const isAllAlong = ({ from, to }: Contact): boolean => from === 0 && to === 1;

function axisIn(items: readonly unknown[], [ref]: FaceRef[]): { at: Vec; axis: Vec } | null {
  for (const item of items as { faces?: { name: string; axisAt?: Vec; direction?: Vec }[] }[]) {
    const face = ref && item.faces?.find(({ name }) => name === ref.face);
    if (face?.axisAt && face.direction) return { at: face.axisAt, axis: face.direction };
  }
  return null;
}

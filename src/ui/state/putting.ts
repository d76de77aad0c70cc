import { type Job, standing } from "@/core/job";
import { after, canPut, movedBy, ofTurn, type PutFace, putTurns, type Transform, turnedBy } from "@/core/place";
import { isBodyView } from "@/engine/contract";
import type { Hit } from "../viewport/drawn";
import { type StandKey, standKey, standOf } from "./others";
import type { WorkspaceStore } from "./workspace-store";

/** A part that is put by two faces: one of its own, and one of another that it goes to. */
export interface Putting extends StandKey {
  mine: PickedFace | null;
  onto: PickedFace | null;
  how: "facing" | "flush";
  middle: boolean;
  trouble: string | null;
}

/** A face of a part where it stands: by the id that its body is drawn by. */
export interface PickedFace {
  id: string;
  face: number;
  facts: PutFace;
}

export const beginPutting = (stand: StandKey): Putting => ({
  part: stand.part,
  at: stand.at,
  mine: null,
  onto: null,
  how: "facing",
  middle: false,
  trouble: null,
});

/** After a click on a face: it is the part's own, or what that goes to. */
export function afterPutPick(
  putting: Putting,
  hit: Hit,
  job: Job,
  state: Pick<WorkspaceStore, "others" | "evaluation" | "part">,
): Putting {
  const stand = standOf(hit.id);
  if (!stand || hit.face === null) return putting;
  const items = stand.part === state.part ? state.evaluation?.items : state.others.get(stand.part)?.items;
  const item = items?.find(({ id }) => id === stand.item);
  const part = job.parts.find(({ id }) => id === stand.part);
  const stands = part && standing(job, part, stand.at);
  if (!item || !isBodyView(item) || !stands || "problem" in stands) return putting;
  const { kind, centre, direction, axisAt } = item.faces[hit.face]!;
  const { transform } = stands;
  const facts: PutFace = {
    kind,
    centre: movedBy(transform, centre),
    ...(direction ? { direction: turnedBy(transform, direction) } : {}),
    ...(axisAt ? { axisAt: movedBy(transform, axisAt) } : {}),
  };
  const picked: PickedFace = { id: hit.id, face: hit.face, facts };
  const isMine = standKey(stand) === standKey(putting);
  const next = { ...putting, [isMine ? "mine" : "onto"]: picked };
  if (kind !== "plane" && kind !== "cylinder")
    return { ...putting, trouble: "That face is neither flat nor cylindrical. Pick another." };
  const unlike = next.mine && next.onto && !canPut(next.mine.facts, next.onto.facts);
  return { ...next, trouble: unlike ? "Both faces have to be flat, or both cylindrical. Pick two of a kind." : null };
}

/** Where the part comes to stand; null while not both faces are picked. */
export function putTransform({ mine, onto, how, middle }: Putting, stands: Transform): Transform | null {
  if (!mine || !onto || !canPut(mine.facts, onto.facts)) return null;
  const [turn, move] = putTurns(mine.facts, onto.facts, { how, gap: 0, spin: 0, middle });
  return after(ofTurn(move), after(ofTurn(turn), stands));
}

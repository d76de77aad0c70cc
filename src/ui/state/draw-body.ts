import type { Trouble } from "@/core/errors";
import type { CornerRef, EdgeRef, FaceRef } from "@/core/references";
import { shownFields } from "@/core/steps";
import type { BodyView, ItemView, ViewMesh } from "@/engine/contract";
import type { Sitting } from "../items/shown";
import type { DrawnBody } from "../viewport/drawn";
import { hatchOf } from "../viewport/hatch";
import { lineOf } from "./checking";
import { lookOf } from "./looks";
import { partOf } from "./measuring";
import { colourOf } from "./tints";
import type { State } from "./view-content";
import { type Found, foundIn } from "./whereabouts";

const NONE: readonly ItemView[] = [];

/** A body as the view draws it: what of it is picked, pointed at or to blame lights up. */
export function drawBody(item: BodyView, mesh: ViewMesh, { state, part, dark, picked }: Sitting): DrawnBody {
  const trouble = troubleOf(state);
  const look = lookOf(part, item);
  const { editing } = state;
  const found = foundIn(state.evaluation);
  const cutters = editing?.step.type === "seam" ? (editing.step.cutters as string[]) : [];
  const isBehind = editing?.step.type === "sketch" && state.picking === null;
  const isCutter = item.kind === "sheet" || cutters.includes(item.id) || cutters.includes(item.step);
  // What encloses is seen through: what it is filled with lies in it.
  const isFilled =
    editing?.step.preset === "fill" && state.picking === null && (state.evaluation?.pieces?.length ?? 0) > 0;
  // Behind a drawing nothing is lit up: what is drawn has to be seen.
  const refs =
    editing && !isBehind
      ? shownFields(editing.step).flatMap(({ key }) => {
          const value = editing.step[key];
          return Array.isArray(value) ? value.filter(isPartRef).flatMap((ref) => litBy(ref, found)) : [];
        })
      : [];
  if (!editing && state.selected === item.id && state.selectedFace !== null)
    refs.push({ body: item.id, face: item.faces[state.selectedFace]?.name ?? "" });
  // What is to blame lights up: the faces behind which there is too little, and so on.
  for (const { body, face } of trouble?.faces ?? []) if (body === item.id) refs.push({ body, face });
  for (const thing of state.measuring?.picked ?? []) {
    const ref = thing.id === item.id ? partOf(item, thing) : null;
    if (ref) refs.push({ body: item.id, [ref.kind]: ref.name });
  }
  const mine = refs.filter((ref) => ref.body === item.id || item.was.includes(ref.body));
  const faces = mine.map((ref) => item.faces.findIndex((face) => face.name === ref.face));
  const edges = mine.map((ref) => (ref.edge ? item.edges.findIndex((edge) => edge?.name === ref.edge) : -1));
  const corners = mine.map((ref) => (ref.corner ? item.corners.findIndex(({ name }) => name === ref.corner) : -1));
  const checked = state.checking?.result;
  const lit = checked?.lit.find(({ body }) => body === item.id);
  if (lit) {
    faces.push(...lit.faces);
    edges.push(...lit.edges);
  }
  const line = lineOf(state.checking);
  const pair = line?.pair;
  if (line && pair && line.body === item.id && pair.one.part === part.id && pair.one.at === "")
    faces.push(...line.faces);
  if (pair && pair.other.body === item.id && pair.other.part === part.id && pair.other.at === "")
    faces.push(...pair.other.faces);
  const paint = checked?.paint.find(({ meshId }) => meshId === item.meshId);
  return {
    id: item.id,
    mesh,
    // A solid in trouble is seen through, so that the place of the trouble shows; so is what lies behind a drawing.
    look: isCutter
      ? "cutter"
      : trouble || isBehind
        ? "ghost"
        : look.clear || isFilled || (pair && !state.section)
          ? "clear"
          : "body",
    // A cutter that nobody coloured looks like one.
    colour: isCutter && !look.colour ? null : colourOf(item.id, look, state.evaluation?.items ?? NONE, dark),
    solid: item.measures.closed,
    hatch: hatchOf(look.material),
    faces: faces.filter((face) => face >= 0),
    edges: edges.filter((edge) => edge >= 0),
    corners: item.corners.map(({ at }) => at),
    litCorners: corners.filter((corner) => corner >= 0),
    picked: picked.has(item.id) || picked.has(item.step),
    paint: paint && checked ? { values: paint.values, bands: checked.bands } : null,
    shift: [0, 0, 0],
  };
}

/** What a picked face, edge or corner lights up: itself, and the faces that its rule brings along. */
function litBy(ref: FaceRef & EdgeRef & CornerRef, found: Found): (FaceRef & EdgeRef & CornerRef)[] {
  const at = found.part(ref);
  if (!at) return [];
  return [at.now, ...(at.all ?? []).map((face) => ({ body: at.now.body, face }))];
}

function isPartRef(value: unknown): value is FaceRef & EdgeRef & CornerRef {
  return typeof value === "object" && value !== null && "body" in value;
}

/** What went wrong at a place: of the open step, else of the first step that failed at one. */
export function troubleOf({ evaluation, editing }: State): Trouble | null {
  const failed = evaluation?.steps.filter((step) => step.error?.at && (!editing || step.id === editing.step.id));
  return failed?.[0]?.error ?? null;
}

import type { Trouble } from "@/core/errors";
import type { Part } from "@/core/job";
import type { CornerRef, EdgeRef, FaceRef } from "@/core/references";
import { type Field, shownFields } from "@/core/steps";
import { type BodyView, type ItemView, isBodyView, type PieceView, type ViewMesh } from "@/engine/contract";
import type { Drawing, DrawnBody, DrawnPlane, DrawnSketch } from "../viewport/drawn";
import { BODY_HEX, pieceColour } from "../viewport/palette";
import { lookOf } from "./looks";
import { partOf } from "./measuring";
import { isOut } from "./visibility";
import type { WorkspaceStore } from "./workspace-store";

/** What of the workspace the picture is made from: whatever else changes, as how far a step has come, leaves it as it is. */
const DRAWN = [
  "editing",
  "picking",
  "evaluation",
  "meshes",
  "hover",
  "selected",
  "selectedFace",
  "hidden",
  "shown",
  "alone",
  "shownPieces",
  "pull",
  "section",
  "measuring",
] as const satisfies readonly (keyof WorkspaceStore)[];

type State = Pick<WorkspaceStore, (typeof DRAWN)[number]>;

/** Whether the picture has to be made anew. */
export const drawnAnew = (now: State, before: State): boolean => DRAWN.some((key) => now[key] !== before[key]);

/** The pieces that the tray and the view show now; null when no seam is open or its stock is being picked. */
export function shownPieces(state: Pick<State, "editing" | "picking" | "evaluation">): PieceView[] | null {
  const { editing, picking, evaluation } = state;
  if (editing?.step.type !== "seam" || picking !== null) return null;
  return evaluation?.pieces && evaluation.pieces.length > 0 ? evaluation.pieces : null;
}

/** What the view draws, from what is built and what is open. */
export function drawingOf(state: State, dark: boolean, part: Part): Drawing {
  const { hover, section } = state;
  const pieces = shownPieces(state);
  const trouble = troubleOf(state);
  const items = itemsToShow(state);
  const picked = pickedItems(state);
  const bodies: DrawnBody[] = [];
  const planes: DrawnPlane[] = [];
  const sketches: DrawnSketch[] = [];
  for (const item of items) {
    // While a step is open all can be picked from; else what has served is left out, but for what is pointed at.
    const asked = state.editing !== null || picked.has(item.id) || hover?.id === item.id;
    const choices = asked && !isBodyView(item) ? { ...state, shown: new Set([item.id]) } : state;
    if (isOut(item, part, choices)) continue;
    if (item.kind === "workplane")
      planes.push({ id: item.id, origin: item.origin, normal: item.normal, picked: picked.has(item.id) });
    else if (item.kind === "sketch") {
      // The open one is drawn over the view, where it follows the pointer.
      if (state.editing?.step.type === "sketch" && state.editing.step.id === item.step && state.picking === null)
        continue;
      sketches.push({ id: item.id, lines: item.lines, picked: picked.has(item.id) || picked.has(item.step) });
    } else {
      const mesh = state.meshes.get(item.meshId);
      if (mesh) bodies.push(drawBody(item, mesh, state, picked, trouble, part, dark));
    }
  }
  if (pieces) bodies.push(...drawPieces(pieces, state));
  return {
    bodies,
    planes,
    sketches,
    hovered: hover?.id ?? null,
    hoveredFace: pickedKind(state) === "faces" || state.measuring ? (hover?.face ?? null) : null,
    hoveredEdge: hover?.edge ?? null,
    hoveredCorner: hover?.corner ?? null,
    section,
    dark,
    mark: trouble?.at ?? null,
  };
}

/** While a step is open and something is being picked: what it can pick from. Else what is on the bench. */
function itemsToShow({ editing, picking, evaluation, ...state }: State): ItemView[] {
  if (!evaluation) return [];
  if (!editing) return evaluation.items;
  if (picking !== null) return evaluation.before ?? evaluation.items;
  const pieces = shownPieces({ editing, picking, evaluation });
  const report = evaluation.steps.find((step) => step.id === editing.step.id);
  if (!pieces) return report?.state === "failed" ? (evaluation.before ?? evaluation.items) : evaluation.items;
  // The pieces stand in for what the step makes; of the rest, only the cutters are shown.
  const made = new Set(report?.made ?? []);
  const cutters = new Set(pieces.flatMap((piece) => Object.keys(piece.sides)));
  return (evaluation.before ?? []).filter(
    (item) => cutters.has(item.id) && item.kind !== "solid" && !made.has(item.id) && !state.hidden.has(item.id),
  );
}

/** The field that clicks in the view go to: the one of that key which the form shows. */
export function pickField({ editing, picking }: Pick<State, "editing" | "picking">): Field | undefined {
  if (!editing || picking === null) return undefined;
  return shownFields(editing.step).find((field) => field.key === picking);
}

/** What is being picked: faces, edges, corners, or whole items. */
export function pickedKind(state: Pick<State, "editing" | "picking">): Field["kind"] | undefined {
  return pickField(state)?.kind;
}

/** The items that the open step names, or that are selected. */
function pickedItems({ editing, selected, picking }: State): Set<string> {
  if (!editing) return new Set(selected ? [selected] : []);
  if (picking === null) return new Set();
  const value = editing.step[picking];
  return new Set(Array.isArray(value) ? value.filter((entry): entry is string => typeof entry === "string") : []);
}

/** What went wrong at a place: of the open step, else of the first step that failed at one. */
function troubleOf({ evaluation, editing }: State): Trouble | null {
  const failed = evaluation?.steps.filter((step) => step.error?.at && (!editing || step.id === editing.step.id));
  return failed?.[0]?.error ?? null;
}

function drawBody(
  item: BodyView,
  mesh: ViewMesh,
  state: State,
  picked: Set<string>,
  trouble: Trouble | null,
  part: Part,
  dark: boolean,
): DrawnBody {
  const look = lookOf(part, item);
  const { editing } = state;
  const cutters = editing?.step.type === "seam" ? (editing.step.cutters as string[]) : [];
  const isBehind = editing?.step.type === "sketch" && state.picking === null;
  const isCutter = item.kind === "sheet" || cutters.includes(item.id) || cutters.includes(item.step);
  // Behind a drawing nothing is lit up: what is drawn has to be seen.
  const refs =
    editing && !isBehind
      ? shownFields(editing.step).flatMap(({ key }) => {
          const value = editing.step[key];
          return Array.isArray(value) ? value.filter(isPartRef) : [];
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
  return {
    id: item.id,
    mesh,
    // A solid in trouble is seen through, so that the place of the trouble shows; so is what lies behind a drawing.
    look: isCutter ? "cutter" : trouble || isBehind ? "ghost" : look.clear ? "clear" : "body",
    colour: look.colour ? BODY_HEX[dark ? "dark" : "light"][look.colour] : null,
    solid: item.measures.closed,
    faces: faces.filter((face) => face >= 0),
    edges: edges.filter((edge) => edge >= 0),
    corners: item.corners.map(({ at }) => at),
    litCorners: corners.filter((corner) => corner >= 0),
    picked: picked.has(item.id) || picked.has(item.step),
    shift: [0, 0, 0],
  };
}

function isPartRef(value: unknown): value is FaceRef & EdgeRef & CornerRef {
  return typeof value === "object" && value !== null && "body" in value;
}

function drawPieces(pieces: PieceView[], { shownPieces: shown, pull, hover, alone }: State): DrawnBody[] {
  const boxes = pieces.map((piece) => piece.measures.box).filter((box) => box !== null);
  const middle = [0, 1, 2].map((k) => average(boxes.map((box) => (box.min[k]! + box.max[k]!) / 2)));
  return pieces.flatMap((piece): DrawnBody[] => {
    const scrapped = piece.fate.fate === "scrap";
    const wanted = shown === "both" || (shown === "scrapped") === scrapped;
    if (!wanted || (alone !== null && alone !== piece.key)) return [];
    const at = piece.inner ?? piece.centre;
    return [
      {
        id: piece.key,
        mesh: piece.mesh,
        look: scrapped && shown !== "scrapped" && hover?.id !== piece.key ? "ghost" : "body",
        colour: pieceColour(piece.index),
        solid: piece.measures.closed,
        faces: [],
        edges: [],
        corners: [],
        litCorners: [],
        picked: false,
        shift: [0, 1, 2].map((k) => pull * 1.2 * (at[k]! - middle[k]!)) as [number, number, number],
      },
    ];
  });
}

function average(values: number[]): number {
  return values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : 0;
}

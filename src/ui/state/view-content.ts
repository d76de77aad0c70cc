import type { Trouble } from "@/core/errors";
import { type Job, type Part, standing } from "@/core/job";
import { type Field, shownFields } from "@/core/steps";
import { type ItemView, isBodyView, type PieceView } from "@/engine/contract";
import { shownAs } from "../items";
import { type DrawnBody, plainBody, type ViewContent } from "../viewport/drawn";
import { pieceColour } from "../viewport/palette";
import { lineOf } from "./checking";
import { comparedPlaces, drawCompared } from "./comparing";
import { troubleOf } from "./draw-body";
import { type MovedPlane, partingOf } from "./moved-plane";
import { drawOthers, type Lit } from "./others";
import { isShown } from "./piece-filter";
import { onItsWay, TOUCHED, touchedNow } from "./playing";
import { putTransform } from "./putting";
import { type RoughView, roughOf, withMoved } from "./rough";
import { isOut } from "./visibility";
import { foundIn } from "./whereabouts";
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
  "pieceFilter",
  "pickedPieces",
  "pull",
  "section",
  "measuring",
  "checking",
  "late",
  "rough",
  "whole",
  "around",
  "others",
  "standsHidden",
  "standsClear",
  "standAlone",
  "comparing",
  "putting",
  "playing",
  "contacts",
  "evaluatedJob",
] as const satisfies readonly (keyof WorkspaceStore)[];

export type State = Pick<WorkspaceStore, (typeof DRAWN)[number]>;

/** Whether the picture has to be made anew. */
export const drawnAnew = (now: State & Followed, before: State & Followed): boolean =>
  DRAWN.some((key) => now[key] !== before[key]) || (now.late && now.dragged !== before.dragged);

/** What is dragged is in the picture only where triangles follow it: else what comes of it is. */
type Followed = Pick<WorkspaceStore, "dragged">;

/** The pieces that the tray and the view show now; null when no seam is open or its stock is being picked. */
export function shownPieces(state: Pick<State, "editing" | "picking" | "evaluation">): PieceView[] | null {
  const { editing, picking, evaluation } = state;
  if (editing?.step.type !== "seam" || picking !== null) return null;
  return evaluation?.pieces && evaluation.pieces.length > 0 ? evaluation.pieces : null;
}

/** What the view draws, from what is built and what is open. */
export function viewContentOf(
  state: State,
  dark: boolean,
  part: Part,
  moved: MovedPlane | null = null,
  /** The job, where other parts are to be seen, too. */
  job: Job | null = null,
): ViewContent {
  const { hover, section } = state;
  const pieces = shownPieces(state);
  const rough = roughOf(state.rough, state.editing);
  const items = withMoved(itemsToShow(state), rough);
  const picked = pickedItems(state);
  const drawing: ViewContent = {
    bodies: [],
    planes: [],
    lines: [],
    hovered: hover?.id ?? null,
    hoveredFace:
      ["faces", "other-faces"].includes(pickedKind(state) ?? "") || state.measuring || state.checking || state.putting
        ? (hover?.face ?? null)
        : null,
    hoveredEdge: hover?.edge ?? null,
    hoveredCorner: hover?.corner ?? null,
    section,
    dark,
    marks: [
      ...placesOf(troubleOf(state)),
      ...(lineOf(state.checking)?.pair?.at ?? []),
      ...comparedPlaces(state.comparing),
    ],
    faults: segmentsOf(troubleOf(state)),
  };
  if (job) drawing.bodies.push(...drawOthers(state, job, part, dark, litElsewhere(state), putFor(state, job)));
  if (state.whole) return withPutFaces(drawing, state);
  // While a step is open all can be picked from, as soon as it is known what lies before it: until then the picture stays.
  const choosing = state.editing !== null && state.evaluation?.before !== undefined;
  for (const item of items) {
    // Else what has served is left out, but for what is pointed at.
    const asked = choosing || picked.has(item.id) || hover?.id === item.id;
    const choices = asked && !isBodyView(item) ? { ...state, shown: new Set([item.id]) } : state;
    if (!isOut(item, part, choices)) shownAs(item).draw(item, drawing, { state, part, dark, picked });
  }
  const onWay = job ? onItsWay(state, job, part) : null;
  if (onWay) {
    // What it passes through is looked into, so that it can be seen in there.
    const touched = touchedNow(state);
    for (const body of drawing.bodies) {
      const is = touched.find(({ id }) => id === body.id);
      body.look = is ? "clear" : "ghost";
      if (is) body.colour = TOUCHED;
    }
    drawing.marks = [...drawing.marks, ...touched.map(({ at }) => at)];
    drawing.bodies.push(onWay);
  }
  if (state.comparing?.differences) {
    // The part itself stands dimmed behind what is compared.
    const compared = drawCompared(state.comparing);
    for (const body of drawing.bodies) body.look = "ghost";
    drawing.bodies.push(...compared.bodies);
    drawing.lines.push(...compared.lines);
    return drawing;
  }
  if (pieces) {
    drawing.bodies.push(...(rough ? drawRough(rough, pieces, state) : drawPieces(pieces, state, moved)));
    for (const plane of drawing.planes) {
      plane.pane = false;
      if (plane.id === moved?.id) plane.origin = moved.origin;
    }
  }
  return drawing;
}

/** What of another part the line of the audit is about that is looked at. */
function litElsewhere({ checking }: State): Lit | null {
  const pair = lineOf(checking)?.pair;
  return pair ? { ...pair.other, body: pair.other.body } : null;
}

/** A part that is being put, where it would come to stand. */
function putFor({ putting }: State, job: Job) {
  const part = putting && job.parts.find(({ id }) => id === putting.part);
  const stands = part ? standing(job, part, putting.at) : null;
  const to = putting && stands && "transform" in stands ? putTransform(putting, stands.transform) : null;
  return to && putting ? { stand: putting, to } : null;
}

/** The faces that a part is put by, lit. */
function withPutFaces(drawing: ViewContent, { putting, selected }: State): ViewContent {
  for (const body of drawing.bodies) {
    body.picked = selected === body.id;
    for (const picked of [putting?.mine, putting?.onto]) if (picked?.id === body.id) body.faces.push(picked.face);
  }
  return drawing;
}

/** While a step is open and something is being picked: what it can pick from. Else what is on the bench. */
function itemsToShow({ editing, picking, evaluation, ...state }: State): ItemView[] {
  if (!evaluation) return [];
  if (!editing) return evaluation.items;
  if (picking !== null) return evaluation.before ?? evaluation.items;
  const pieces = shownPieces({ editing, picking, evaluation });
  const report = evaluation.steps.find((step) => step.id === editing.step.id);
  if (!pieces) return report?.state === "failed" ? (evaluation.before ?? evaluation.items) : evaluation.items;
  // The pieces stand in for what the step makes; of the rest, only the cutters are shown, and what encloses them.
  const made = new Set(report?.made ?? []);
  const cutters = new Set(pieces.flatMap((piece) => Object.keys(piece.sides)));
  return (evaluation.before ?? []).filter(
    (item) =>
      cutters.has(item.id) &&
      (item.kind !== "solid" || editing.step.preset === "fill") &&
      !made.has(item.id) &&
      !state.hidden.has(item.id),
  );
}

/** A place on a face is picked, through which a plane goes that cuts: no field of the form. */
export const PLANE_HERE = "plane here";

/** The field that clicks in the view go to: the one of that key which the form shows. */
export function pickField({ editing, picking }: Pick<State, "editing" | "picking">): Field | undefined {
  if (!editing || picking === null) return undefined;
  if (picking === PLANE_HERE) return { key: PLANE_HERE, kind: "faces", label: "Face", accepts: "any", min: 1 };
  return shownFields(editing.step).find((field) => field.key === picking);
}

/** What is being picked: faces, edges, corners, or whole items. */
export function pickedKind(state: Pick<State, "editing" | "picking">): Field["kind"] | undefined {
  return pickField(state)?.kind;
}

/** The items that the open step names, or that are selected. */
function pickedItems({ editing, selected, picking, evaluation }: State): Set<string> {
  if (!editing) return new Set(selected ? [selected] : []);
  if (picking === null) return new Set();
  const value = editing.step[picking];
  const ids = Array.isArray(value) ? value.filter((entry): entry is string => typeof entry === "string") : [];
  return new Set(foundIn(evaluation).items(ids));
}

function drawPieces(pieces: PieceView[], state: State, moved: MovedPlane | null): DrawnBody[] {
  const shifts = shiftsOf(pieces, state.pull);
  return pieces.flatMap((piece, i): DrawnBody[] => {
    const look = lookOfPiece(piece, state);
    if (look === null) return [];
    return [{ ...drawnPiece(piece, look, shifts[i]!, state), ...(moved ? partedBy(moved, piece, pieces, state) : {}) }];
  });
}

function drawnPiece(piece: PieceView, look: "body" | "ghost", shift: DrawnBody["shift"], state: State): DrawnBody {
  return plainBody(piece.key, piece.mesh, {
    look,
    colour: pieceColour(piece.index),
    solid: piece.measures.closed,
    picked: state.pickedPieces.has(piece.key),
    shift,
  });
}

/** Pieces as triangles, each as the exact one looked that it stands for; one that stands for none is of no colour. */
function drawRough({ pieces: rough, standsFor }: RoughView, pieces: PieceView[], state: State): DrawnBody[] {
  const shifts = new Map(shiftsOf(pieces, state.pull).map((shift, i) => [pieces[i]!.key, shift] as const));
  const seen = new Set<string>();
  return rough.flatMap(({ mesh }, i): DrawnBody[] => {
    const was = standsFor[i] ?? null;
    const look = was ? lookOfPiece(was, state) : "body";
    if (look === null) return [];
    if (!was) {
      const [any] = pieces;
      return any
        ? [{ ...drawnPiece(any, look, [0, 0, 0], state), id: `rough:${i}`, mesh, colour: null, picked: false }]
        : [];
    }
    const drawn = drawnPiece(was, look, shifts.get(was.key) ?? [0, 0, 0], state);
    const id = seen.has(was.key) ? `rough:${i}` : was.key;
    seen.add(was.key);
    return [{ ...drawn, id, mesh }];
  });
}

/** How a piece looks while a plane has been moved into it: what lies beyond the plane has come to the piece across it. */
function partedBy(moved: MovedPlane, piece: PieceView, pieces: PieceView[], state: State): Pick<DrawnBody, "parted"> {
  const parting = partingOf(piece, pieces, moved);
  if (!parting) return {};
  const { plane, side, rest } = parting;
  const look = rest && lookOfPiece(rest, state);
  const beyond = rest && look ? { look, colour: pieceColour(rest.index) } : null;
  return { parted: { origin: plane.origin, normal: plane.normal, side, beyond } };
}

/** How a piece is seen in the view: its own self, hardly, or not at all. */
export function lookOfPiece(
  piece: PieceView,
  { shownPieces: shown, pieceFilter, hover, alone }: Pick<State, "shownPieces" | "pieceFilter" | "hover" | "alone">,
): "body" | "ghost" | null {
  const scrapped = piece.fate.fate === "scrap";
  const wanted = shown === "both" || (shown === "scrapped") === scrapped;
  if (!wanted || (alone !== null && alone !== piece.key)) return null;
  return (scrapped && shown !== "scrapped" && hover?.id !== piece.key) || !isShown(pieceFilter, piece)
    ? "ghost"
    : "body";
}

/** How far each piece is pulled off its place, mm: away from the middle of all. */
export function shiftsOf(pieces: readonly PieceView[], pull: number): [number, number, number][] {
  const boxes = pieces.map((piece) => piece.measures.box).filter((box) => box !== null);
  const middle = [0, 1, 2].map((k) => average(boxes.map((box) => (box.min[k]! + box.max[k]!) / 2)));
  return pieces.map((piece) => {
    const at = placeOfPiece(piece);
    return [0, 1, 2].map((k) => pull * 1.2 * (at[k]! - middle[k]!)) as [number, number, number];
  });
}

/** A place in a piece, mm; of a sheet one near it. */
export const placeOfPiece = ({ inner, centre }: PieceView): readonly [number, number, number] => inner ?? centre;

function placesOf(trouble: Trouble | null): ViewContent["marks"] {
  return trouble?.at ? [trouble.at, ...(trouble.places ?? [])] : [];
}

function segmentsOf(trouble: Trouble | null): ViewContent["faults"] {
  return (trouble?.paths ?? []).flatMap((path) => path.slice(1).flatMap((to, i) => [...path[i]!, ...to]));
}

function average(values: number[]): number {
  return values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : 0;
}

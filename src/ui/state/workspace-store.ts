import { createStore } from "zustand/vanilla";
import type { FitReport } from "@/core/check";
import type { LinkReport } from "@/core/evaluate";
import type { Job, Step } from "@/core/job";
import type { PieceFilter } from "@/core/seam";
import type { Clip } from "@/core/sketch";
import type { Stage } from "@/core/steps";
import type { Evaluation, ItemView, Operations, ViewMesh } from "@/engine/contract";
import type { ViewSection } from "../viewport/drawn";
import type { Checking } from "./checking";
import type { Comparing } from "./comparing";
import type { Dragged } from "./handles";
import type { Measuring } from "./measuring";
import type { OtherPart } from "./others";
import { EVERY, type PieceOrder } from "./piece-filter";
import type { PiecePicks } from "./piece-picks";
import type { Putting } from "./putting";
import type { RoughView } from "./rough";

export type EngineState =
  | { kind: "starting" }
  | { kind: "idle" }
  | {
      kind: "computing";
      done: number;
      total: number;
      /** Since when this many are done, ms. */
      since: number;
      /** What the next is at. Written without a word to those who watch: it changes faster than anyone reads. */
      stage?: string | undefined;
    }
  | { kind: "stopped" }
  | { kind: "failed"; message: string };

/** The step that is open in the sheet. */
export interface Editing {
  step: Step;
  isNew: boolean;
}

export interface Hover {
  id: string;
  face: number | null;
  /** An edge or a corner of it, by place, while those are picked. */
  edge?: number;
  corner?: number;
}

export type ShownPieces = "kept" | "scrapped" | "both";

/** What the workspace shows and what is open in it; nothing of it is part of the job. */
export interface WorkspaceStore {
  part: string;
  editing: Editing | null;
  /** A number of a step that is being dragged in the view; null while none is. */
  dragged: Dragged | null;
  /** Whether a number of the open step itself is. */
  inHand: boolean;
  /** The field of the open step that clicks in the view go to. */
  picking: string | null;
  /** The step that was open when it was asked for; null for none. */
  evaluatedFor: string | null;
  evaluation: Evaluation | null;
  /** The job that it is of, with what was open and dragged then; null where it is as it was stored. */
  evaluatedJob: Job | null;
  /** Whether what is exact keeps somebody waiting: until it is there, triangles follow the hand. */
  late: boolean;
  /** What is shown by triangles meanwhile, where they are worked out by the engine; null where what is exact is shown. */
  rough: RoughView | null;
  /** Meshes by mesh id, so that an unchanged body is not sent twice. */
  meshes: Map<string, ViewMesh>;
  engine: EngineState;
  hover: Hover | null;
  selected: string | null;
  /** The face of the selected body that was clicked, by place. */
  selectedFace: number | null;
  hidden: ReadonlySet<string>;
  /** Planes and sketches that are shown although they have served. */
  shown: ReadonlySet<string>;
  alone: string | null;
  shownPieces: ShownPieces;
  /** Which pieces the tray shows, by the ids of items, and in which order. */
  pieceFilter: PieceFilter;
  pieceOrder: PieceOrder;
  /** Pieces that are picked to be decided on together, and the one that was picked last. */
  pickedPieces: PiecePicks;
  pickedLast: string | null;
  /** 0 to 1: how far pieces are pulled apart. */
  pull: number;
  section: ViewSection | null;
  stage: Stage | null;
  /** Why the last thing asked of the build sheet was not done. */
  sheetTrouble: string | null;
  exporting: boolean;
  parametersOpen: boolean;
  /** Whether the views that the part keeps are listed. */
  viewsOpen: boolean;
  /** What lies over all else and is to be answered or left first. */
  dialog: "find" | "settings" | "keys" | { help: string } | null;
  /** The menu at a place of the view, pixels, with what lies there, the nearest first. */
  menu: { x: number; y: number; hits: Hover[] } | null;
  /** Where the pointer is in the model, mm. */
  place: { at: [number, number, number]; on: "body" | "floor" } | null;
  /** The stop of the walk through the demo, from 0; null while nobody is on it. */
  walk: number | null;
  /** How often what lies behind was asked for since the pointer stood still. */
  deeper: number;
  /** Whether a rectangle is being drawn to see what lies in it. */
  framing: boolean;
  /** What is picked in the open sketch, by id. */
  sketchPicked: readonly string[];
  /** The region under the pointer, by place, while regions are picked. */
  hoveredRegion: number | null;
  /** What is being measured; null while nothing is. */
  measuring: Measuring | null;
  /** The check that is open; null while none is. */
  checking: Checking | null;
  /** What has come of the fits that are wanted in the job; null while that is not known. */
  fits: FitReport[] | null;
  /** How all that is brought in stands to what it is of; null while that is not known. */
  links: LinkReport[] | null;
  /** What of a link is compared: as it was taken, and as it is now. */
  comparing: Comparing | null;
  /** Whether the whole job is looked at, all parts where they stand, and none is worked on. */
  whole: boolean;
  /** Whether the other parts are drawn round the one that is worked on, dimmed. */
  around: boolean;
  /** What lies on the benches of the other parts, by part: as far as it was asked for. */
  others: ReadonlyMap<string, OtherPart>;
  /** Parts where they stand (`part/place`) that are hidden, seen through, shown alone. */
  standsHidden: ReadonlySet<string>;
  standsClear: ReadonlySet<string>;
  standAlone: string | null;
  /** How far on its way the body of the open step is drawn, 0 to 1; null where it stands. */
  playing: number | null;
  /** What the body that the open step moves is in on its way, and of which job that is; null where it is not known. */
  contacts: { job: Job; found: Operations["contacts"]["gives"] } | null;
  /** A part that is being put by its faces: what was picked for it so far. */
  putting: Putting | null;
  /** What was copied from a sketch, to be put into this or another one. */
  sketchClip: Clip | null;
  set(values: Partial<WorkspaceStore>): void;
  edit(editing: Editing | null): void;
  setValues(values: Record<string, unknown>): void;
}

export function createWorkspaceStore(part: string) {
  return createStore<WorkspaceStore>()((set, get) => ({
    part,
    editing: null,
    dragged: null,
    inHand: false,
    picking: null,
    evaluation: null,
    evaluatedJob: null,
    late: false,
    rough: null,
    evaluatedFor: null,
    meshes: new Map(),
    engine: { kind: "starting" },
    hover: null,
    selected: null,
    selectedFace: null,
    hidden: new Set(),
    shown: new Set(),
    alone: null,
    shownPieces: "both",
    pieceFilter: EVERY,
    pieceOrder: "number",
    pickedPieces: new Set(),
    pickedLast: null,
    pull: 0,
    section: null,
    stage: null,
    sheetTrouble: null,
    exporting: false,
    parametersOpen: false,
    viewsOpen: false,
    dialog: null,
    menu: null,
    place: null,
    walk: null,
    deeper: 0,
    framing: false,
    sketchPicked: [],
    sketchClip: null,
    hoveredRegion: null,
    measuring: null,
    checking: null,
    fits: null,
    links: null,
    comparing: null,
    whole: false,
    around: false,
    others: new Map(),
    standsHidden: new Set(),
    standsClear: new Set(),
    standAlone: null,
    putting: null,
    playing: null,
    contacts: null,
    set: (values) => set(values),
    edit: (editing) =>
      set({
        editing,
        dragged: null,
        inHand: false,
        rough: null,
        sketchPicked: [],
        hoveredRegion: null,
        picking: null,
        pull: 0,
        shownPieces: "both",
        pieceFilter: EVERY,
        pickedPieces: new Set(),
        pickedLast: null,
        menu: null,
        hover: null,
        measuring: null,
        checking: null,
        comparing: null,
        putting: null,
        whole: false,
        ...(editing ? { stage: null } : {}),
      }),
    setValues(values) {
      const { editing } = get();
      if (editing) set({ editing: { ...editing, step: { ...editing.step, ...values } } });
    },
  }));
}

export type WorkspaceStoreApi = ReturnType<typeof createWorkspaceStore>;

/**
 * Whether it is known what lies on the bench before the open step. Just opened, what is shown is what there is after it: a
 * form that offered that would lose what was picked with the next click.
 */
export function benchKnown({
  editing,
  evaluation,
  evaluatedFor,
}: Pick<WorkspaceStore, "editing" | "evaluation" | "evaluatedFor">): boolean {
  if (!evaluation) return false;
  if (!editing) return true;
  if (evaluatedFor === editing.step.id) return evaluation.before !== undefined || editing.isNew;
  // A step that is new changes nothing yet: what is shown is what it begins with.
  return editing.isNew && evaluatedFor === null;
}

/** The items that the open step can pick from; all that is on the bench when none is open. None while that is not known. */
export function pickable(state: Pick<WorkspaceStore, "editing" | "evaluation" | "evaluatedFor">): ItemView[] {
  const { editing, evaluation } = state;
  if (!evaluation || !benchKnown(state)) return [];
  return editing ? (evaluation.before ?? evaluation.items) : evaluation.items;
}

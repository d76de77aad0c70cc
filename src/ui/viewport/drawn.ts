import type { Band } from "@/core/check";
import type { ViewMesh } from "@/engine/contract";
import type { Hatch } from "./hatch";
import type { DrawnAs } from "./view-materials";

/** A body or piece to draw. */
export interface DrawnBody {
  id: string;
  mesh: ViewMesh;
  look: DrawnAs;
  colour: string | null;
  /** Whether it is closed, so that a cut shows its inside. */
  solid: boolean;
  /** How a cut through it is ruled. */
  hatch: Hatch;
  /** Lit faces and edges, by place. */
  faces: number[];
  edges: number[];
  /** Where its corners are, and which of them are lit. */
  corners: readonly (readonly [number, number, number])[];
  litCorners: number[];
  picked: boolean;
  /** Values for the corners of its mesh, drawn by a scale. */
  paint: { values: Float32Array; bands: readonly Band[] } | null;
  /** How pulling apart moves it, mm. */
  shift: [number, number, number];
  /** Where a plane parts it that has been moved: on the side of its front, or its back, it looks as it does; beyond, so. */
  parted?: {
    origin: readonly [number, number, number];
    normal: readonly [number, number, number];
    side: "front" | "back";
    beyond: Pick<DrawnBody, "look" | "colour"> | null;
  };
}

/** A body of which nothing is lit, with what is to be said of it beside. */
export const plainBody = (id: string, mesh: ViewMesh, more: Partial<DrawnBody>): DrawnBody => ({
  id,
  mesh,
  look: "body",
  colour: null,
  solid: true,
  hatch: "metal",
  faces: [],
  edges: [],
  corners: [],
  litCorners: [],
  picked: false,
  paint: null,
  shift: [0, 0, 0],
  ...more,
});

export interface DrawnPlane {
  id: string;
  origin: readonly [number, number, number];
  normal: readonly [number, number, number];
  picked: boolean;
  /** Whether it is drawn as a pane. Where pieces are to be seen, planes are their rims alone, but for one pointed at. */
  pane: boolean;
}

/** Curves as segments in space: of a sketch, or of one in space. */
export interface DrawnLines {
  id: string;
  lines: readonly number[];
  picked: boolean;
}

export interface ViewSection {
  axis: "x" | "y" | "z";
  /** 0 to 1 across what is shown. */
  at: number;
  /** Where it was asked for by a place: mm along the axis. */
  mm?: number;
  flip: boolean;
}

export interface ViewContent {
  bodies: DrawnBody[];
  planes: DrawnPlane[];
  lines: DrawnLines[];
  hovered: string | null;
  hoveredFace: number | null;
  hoveredEdge: number | null;
  hoveredCorner: number | null;
  section: ViewSection | null;
  dark: boolean;
  /** Places to mark, as where cutters stop short. */
  marks: readonly (readonly [number, number, number])[];
  /** Lines of what is wrong, as where a skin is open: segments in space. */
  faults: readonly number[];
}

export interface Hit {
  id: string;
  face: number | null;
  edge?: number;
  corner?: number;
}

import {
  areaOf,
  type Box,
  boxOf,
  countsOf,
  type FaceFacts,
  notedGap,
  type OpenEdge,
  openEdges,
  type Pinch,
  perShape,
  type Shape,
  unsoundness,
  volumeOf,
  volumeWithin,
  widestGap,
} from "../../kernel";
import { EXACT } from "../../tolerance";

/** What is measured of a body without asking: quick enough to show beside every card. */
export interface Measures {
  /** mm³; null for a sheet that is not closed. */
  volume: number | null;
  /** How far the volume may be off, mm³, where it cannot be had exactly. */
  volumeWithin?: number;
  /** mm² */
  area: number;
  closed: boolean;
  /** Where it is open. */
  openEdges: OpenEdge[];
  /** How far apart its faces, edges and corners are where they should meet, mm, where that is more than the exact form needs. */
  meetsWithin?: number;
  /** Where its skin touches itself: the material there has no thickness, and cannot be made. */
  pinches: Pinch[];
  box: Box | null;
}

export function measure(shape: Shape, kind: "solid" | "sheet"): Measures {
  return MEASURES[kind](shape);
}

const MEASURES = {
  solid: perShape((shape) => measured(shape, "solid")),
  sheet: perShape((shape) => measured(shape, "sheet")),
};

function measured(shape: Shape, kind: "solid" | "sheet"): Measures {
  const open = openEdges(shape);
  const within = kind === "solid" ? volumeWithin(shape) : 0;
  return {
    volume: kind === "solid" ? volumeOf(shape) : null,
    ...(within > 0 ? { volumeWithin: within } : {}),
    area: areaOf(shape),
    closed: open.length === 0,
    openEdges: open,
    ...(notedGap(shape) > EXACT ? gapOf(shape) : {}),
    pinches: countsOf(shape).pinches,
    box: boxOf(shape),
  };
}

function gapOf(shape: Shape): Pick<Measures, "meetsWithin"> {
  const size = widestGap(shape)?.size ?? 0;
  return size > EXACT ? { meetsWithin: size } : {};
}

/** All that is known of a body: for the command line's reports and the check panel. */
export interface BodyReport extends Measures {
  id: string;
  name: string;
  kind: "solid" | "sheet";
  /** Whether its faces and edges fit each other, all faces look out, and its numbers are numbers. */
  valid: boolean;
  vertices: number;
  edges: number;
  faces: number;
  /** Handles of its skins; null where a skin touches itself. */
  genus: number | null;
  /** Steps that should have changed it, or what it was made of, and were not done: by id. */
  lacks?: string[];
}

export function reportBody(id: string, name: string, kind: "solid" | "sheet", shape: Shape): BodyReport {
  const measures = measure(shape, kind);
  const counts = countsOf(shape);
  const { vertices, edges, faces, genus } = counts;
  return { id, name, kind, ...measures, valid: unsoundness(shape, kind) === null, vertices, edges, faces, genus };
}

/** How many faces of each kind, in the kernel's words. */
export function faceKinds(facts: readonly FaceFacts[]): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const { kind } of facts) counts[kind] = (counts[kind] ?? 0) + 1;
  return counts;
}

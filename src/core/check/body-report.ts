import {
  areaOf,
  type Box,
  boxOf,
  countsOf,
  type FaceFacts,
  isValid,
  type OpenEdge,
  openEdges,
  type Shape,
  volumeOf,
} from "../kernel";

/** What is measured of a body without asking: quick enough to show beside every card. */
export interface Measures {
  /** mm³; null for a sheet that is not closed. */
  volume: number | null;
  /** mm² */
  area: number;
  closed: boolean;
  /** Where it is open. */
  openEdges: OpenEdge[];
  box: Box | null;
}

export function measure(shape: Shape, kind: "solid" | "sheet"): Measures {
  const open = openEdges(shape);
  const closed = open.length === 0;
  return {
    volume: kind === "solid" ? volumeOf(shape) : null,
    area: areaOf(shape),
    closed,
    openEdges: open,
    box: boxOf(shape),
  };
}

/** All that is known of a body: for the command line's reports and the check panel. */
export interface BodyReport extends Measures {
  id: string;
  name: string;
  kind: "solid" | "sheet";
  valid: boolean;
  vertices: number;
  edges: number;
  faces: number;
  genus: number;
}

export function reportBody(id: string, name: string, kind: "solid" | "sheet", shape: Shape): BodyReport {
  const { vertices, edges, faces, genus } = countsOf(shape);
  return { id, name, kind, ...measure(shape, kind), valid: isValid(shape), vertices, edges, faces, genus };
}

/** How many faces of each kind, in the kernel's words. */
export function faceKinds(facts: readonly FaceFacts[]): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const { kind } of facts) counts[kind] = (counts[kind] ?? 0) + 1;
  return counts;
}

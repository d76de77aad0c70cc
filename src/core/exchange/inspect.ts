import { faceKinds, measure } from "../check";
import { allFaceFacts, type Box, freeShape, unsoundness } from "../kernel";
import { readStep } from "./step";

/** One body of a file, as the command line prints it. */
export interface InspectedBody {
  name: string;
  kind: "solid" | "sheet";
  /** mm³; null for a sheet. */
  volume: number | null;
  /** mm² */
  area: number;
  closed: boolean;
  /** Whether its faces, edges and numbers fit each other. */
  valid: boolean;
  openEdges: number;
  /** How far the volume may be off, mm³, and how far apart what should meet is, mm: where either is not exact. */
  volumeWithin?: number;
  meetsWithin?: number;
  box: Box | null;
  faceKinds: Record<string, number>;
}

export interface Inspection {
  file: string;
  unit: string | null;
  bodies: InspectedBody[];
  warnings: string[];
}

/** Reads a STEP file and measures what is in it. @throws SeamError */
export function inspectStep(bytes: Uint8Array, name: string): Inspection {
  const { bodies, unit, warnings } = readStep(bytes, name);
  const bodiesWithGaps = new Set(
    warnings.flatMap(({ code, body }) => (code === "import-gap" && body ? [body.shape] : [])),
  );
  try {
    return {
      file: name,
      unit,
      bodies: bodies.map(({ name: body, kind, shape }) => {
        const { openEdges, ...measures } = measure(shape, kind);
        return {
          name: body,
          kind,
          ...measures,
          valid: unsoundness(shape, kind) === null && !bodiesWithGaps.has(shape),
          openEdges: openEdges.length,
          faceKinds: faceKinds(allFaceFacts(shape)),
        };
      }),
      warnings: warnings.map(({ message }) => message),
    };
  } finally {
    for (const { shape } of bodies) freeShape(shape);
  }
}

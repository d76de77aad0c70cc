import { faceKinds, measure } from "../check";
import { allFaceFacts, type Box, freeShape } from "../kernel";
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
  openEdges: number;
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
          openEdges: openEdges.length,
          faceKinds: faceKinds(allFaceFacts(shape)),
        };
      }),
      warnings,
    };
  } finally {
    for (const { shape } of bodies) freeShape(shape);
  }
}

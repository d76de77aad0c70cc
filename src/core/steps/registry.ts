import { align } from "./align";
import { box } from "./box";
import { chamfer } from "./chamfer";
import { cone } from "./cone";
import { cylinder } from "./cylinder";
import { draft } from "./draft";
import { extrude } from "./extrude";
import { fillet } from "./fillet";
import { importStep } from "./import";
import { loft } from "./loft";
import { mirror } from "./mirror";
import { move } from "./move";
import { offsetSheetStep } from "./offset-sheet";
import { pattern } from "./pattern";
import { pipe } from "./pipe";
import { revolve } from "./revolve";
import { scaleStep } from "./scale";
import { seam } from "./seam";
import { shell } from "./shell";
import { sketch } from "./sketch";
import { sphere } from "./sphere";
import type { StepType } from "./step";
import { sweep } from "./sweep";
import { torus } from "./torus";
import { wedge } from "./wedge";
import { workplane } from "./workplane";

/** Every kind of step. A new one is a folder here and a line in this list. */
export const STEP_TYPES = [
  importStep,
  box,
  cylinder,
  sphere,
  cone,
  torus,
  wedge,
  workplane,
  sketch,
  extrude,
  revolve,
  loft,
  sweep,
  pipe,
  fillet,
  chamfer,
  draft,
  shell,
  offsetSheetStep,
  move,
  align,
  mirror,
  pattern,
  scaleStep,
  seam,
] as const;

const BY_TYPE = new Map<string, StepType>(STEP_TYPES.map((step) => [step.type, step as unknown as StepType]));

export function stepType(type: string): StepType | undefined {
  return BY_TYPE.get(type);
}

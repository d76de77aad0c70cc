import { align } from "./align/declare";
import { box } from "./box/declare";
import { bringIn } from "./bring-in/declare";
import { chamfer } from "./chamfer/declare";
import { clearance } from "./clearance/declare";
import { cone } from "./cone/declare";
import { curve } from "./curve/declare";
import { cylinder } from "./cylinder/declare";
import type { StepType } from "./declare";
import { draft } from "./draft/declare";
import { extrude } from "./extrude/declare";
import { fillet } from "./fillet/declare";
import { importStep } from "./import/declare";
import { loft } from "./loft/declare";
import { mirror } from "./mirror/declare";
import { motion } from "./motion/declare";
import { move } from "./move/declare";
import { offsetFacesStep } from "./offset-faces/declare";
import { offsetSheetStep } from "./offset-sheet/declare";
import { pattern } from "./pattern/declare";
import { pipe } from "./pipe/declare";
import { remove } from "./remove/declare";
import { replaceFaceStep } from "./replace-face/declare";
import { revolve } from "./revolve/declare";
import { scaleStep } from "./scale/declare";
import { seam } from "./seam/declare";
import { shell } from "./shell/declare";
import { sketch } from "./sketch/declare";
import { sphere } from "./sphere/declare";
import { sweep } from "./sweep/declare";
import { torus } from "./torus/declare";
import { wedge } from "./wedge/declare";
import { workplane } from "./workplane/declare";

/** Every kind of step. A new one is a folder here, a line in this list and one in `evaluations`. */
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
  curve,
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
  remove,
  bringIn,
  seam,
  offsetFacesStep,
  replaceFaceStep,
  clearance,
  motion,
] as const;

const BY_TYPE = new Map<string, StepType>(STEP_TYPES.map((step) => [step.type, step as unknown as StepType]));

export function stepType(type: string): StepType | undefined {
  return BY_TYPE.get(type);
}

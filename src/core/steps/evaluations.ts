import { evaluateAlign } from "./align/evaluate";
import { evaluateBox } from "./box/evaluate";
import { evaluateBringIn } from "./bring-in/evaluate";
import { evaluateChamfer } from "./chamfer/evaluate";
import { evaluateClearance } from "./clearance/evaluate";
import { evaluateCone } from "./cone/evaluate";
import { evaluateCurve } from "./curve/evaluate";
import { evaluateCylinder } from "./cylinder/evaluate";
import { evaluateDraft } from "./draft/evaluate";
import type { StepEvaluation } from "./evaluation";
import { evaluateExtrude } from "./extrude/evaluate";
import { evaluateFillet } from "./fillet/evaluate";
import { evaluateImportStep } from "./import/evaluate";
import { evaluateLoft } from "./loft/evaluate";
import { evaluateMirror } from "./mirror/evaluate";
import { evaluateMotion } from "./motion/evaluate";
import { evaluateMove } from "./move/evaluate";
import { evaluateOffsetFaces } from "./offset-faces/evaluate";
import { evaluateOffsetSheetStep } from "./offset-sheet/evaluate";
import { evaluatePattern } from "./pattern/evaluate";
import { evaluatePipe } from "./pipe/evaluate";
import { evaluateRemove } from "./remove/evaluate";
import { evaluateReplaceFace } from "./replace-face/evaluate";
import { evaluateRevolve } from "./revolve/evaluate";
import { evaluateScaleStep } from "./scale/evaluate";
import { evaluateSeam } from "./seam/evaluate";
import { evaluateShell } from "./shell/evaluate";
import { evaluateSketch } from "./sketch/evaluate";
import { evaluateSphere } from "./sphere/evaluate";
import { evaluateSweep } from "./sweep/evaluate";
import { evaluateTorus } from "./torus/evaluate";
import { evaluateWedge } from "./wedge/evaluate";
import { evaluateWorkplane } from "./workplane/evaluate";

/** What every kind of step does, in the order of `STEP_TYPES`. This is where geometry comes in. */
const EVALUATIONS = [
  evaluateImportStep,
  evaluateBox,
  evaluateCylinder,
  evaluateSphere,
  evaluateCone,
  evaluateTorus,
  evaluateWedge,
  evaluateWorkplane,
  evaluateSketch,
  evaluateCurve,
  evaluateExtrude,
  evaluateRevolve,
  evaluateLoft,
  evaluateSweep,
  evaluatePipe,
  evaluateFillet,
  evaluateChamfer,
  evaluateDraft,
  evaluateShell,
  evaluateOffsetSheetStep,
  evaluateMove,
  evaluateAlign,
  evaluateMirror,
  evaluatePattern,
  evaluateScaleStep,
  evaluateRemove,
  evaluateBringIn,
  evaluateSeam,
  evaluateOffsetFaces,
  evaluateReplaceFace,
  evaluateClearance,
  evaluateMotion,
] as const;

const BY_TYPE = new Map<string, StepEvaluation>(
  EVALUATIONS.map((evaluation) => [evaluation.step.type, evaluation as unknown as StepEvaluation]),
);

export function evaluationOf(type: string): StepEvaluation | undefined {
  return BY_TYPE.get(type);
}

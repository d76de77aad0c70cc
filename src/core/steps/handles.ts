import { boxHandles } from "./box/handles";
import { chamferHandles } from "./chamfer/handles";
import { coneHandles } from "./cone/handles";
import { cylinderHandles } from "./cylinder/handles";
import { extrudeHandles } from "./extrude/handles";
import { filletHandles } from "./fillet/handles";
import { moveHandles } from "./move/handles";
import { offsetFacesHandles } from "./offset-faces/handles";
import { offsetSheetHandles } from "./offset-sheet/handles";
import { patternHandles } from "./pattern/handles";
import { revolveHandles } from "./revolve/handles";
import type { HandlePlace, Surroundings } from "./shared/handles/handles";
import { shellHandles } from "./shell/handles";
import { sphereHandles } from "./sphere/handles";
import { torusHandles } from "./torus/handles";
import { wedgeHandles } from "./wedge/handles";
import { workplaneHandles } from "./workplane/handles";

/** The kinds of step whose numbers are set in the view. */
const HANDLES = new Map(
  [
    boxHandles,
    cylinderHandles,
    sphereHandles,
    coneHandles,
    torusHandles,
    wedgeHandles,
    workplaneHandles,
    extrudeHandles,
    revolveHandles,
    filletHandles,
    chamferHandles,
    shellHandles,
    offsetSheetHandles,
    offsetFacesHandles,
    moveHandles,
    patternHandles,
  ].map(({ type, find }) => [type.type, find] as const),
);

/** Where the numbers of a step stand in space. @param values as `resolveStep` works them out. */
export function handlePlaces(step: { type: string }, values: object, around: Surroundings): HandlePlace[] {
  return HANDLES.get(step.type)?.(values as never, around) ?? [];
}

export const HANDLED_TYPES = [...HANDLES.keys()];
export type { HandlePlace, Surroundings } from "./shared/handles/handles";

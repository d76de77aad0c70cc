import { areaOf } from "../facts/mass";
import { KernelFault } from "../library/faults";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { listOf, ownHandle, type Shape, subshapes } from "../library/topology";
import { makePlaneFace } from "../make/primitives";
import type { Vec3 } from "../space/vectors";

/** How much of a face may be lost where it is parted, as a part of it. */
const LOST = 1e-7;

/**
 * The parts that planes make of a face, each through a point and square to a normal. They belong to the caller.
 * @param reach mm: planes reach as far to all sides. @throws KernelFault where the parts do not cover the face
 */
export function partFace(face: Shape, planes: readonly { at: Vec3; normal: Vec3 }[], reach: number): Shape[] {
  if (planes.length === 0) return [ownHandle(face)];
  return scoped((scope) => {
    const oc = lib();
    const knives = planes.map(({ at, normal }) => scope.use(makePlaneFace(at, normal, reach)));
    const algorithm = scope.use(new oc.BRepAlgoAPI_Splitter());
    algorithm.SetArguments(listOf(scope, [face]));
    algorithm.SetTools(listOf(scope, knives));
    algorithm.SetNonDestructive(true);
    algorithm.Build(scope.use(new oc.Message_ProgressRange()));
    const parts = subshapes(scope, scope.use(algorithm.Shape()), "face");
    const whole = areaOf(face);
    if (Math.abs(parts.reduce((sum, part) => sum + areaOf(part), 0) - whole) > LOST * whole)
      throw new KernelFault("A face could not be parted where it begins to lead.", false);
    return parts.map(ownHandle);
  });
}

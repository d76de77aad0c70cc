import { looseBoxOf } from "../facts/box";
import { normalNear } from "../facts/distance";
import { surfacesOf } from "../facts/surfaces";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, type Shape, shapeKind } from "../library/topology";
import { dot, unit, type Vec3 } from "../space/vectors";
import type { FaceUse, Fusion } from "./general-fuse";
import { reachesPast } from "./reaches-past";

/** Bodies of so many faces take so long to divide that looking at all their cuts adds little. */
export const MANY_FACES = 16;

/** Cosine of the angle between two faces beyond which they count as tangent: 0.08 degrees. */
const TANGENT = 1 - 1e-6;

/**
 * Where the skin of a solid is divided along a line by a face that is not divided there itself. What a solid has in common with a
 * face is bounded by such lines, with the solid's inside on one side of each: so the line has to part the face, too. Where it
 * only lies in it, the library has lost a piece of the cut. It has been seen to divide the skin of a body along a plane,
 * but neither the plane nor the body: one line of the cut did not meet the next.
 *
 * Said of knives that reach past the solid alone: where one ends within, a line may end there with it.
 *
 * Looked for where that costs little beside the division, and always where a body's skin is divided and the body is not.
 * Cones, rings and free faces are left out: what is tried again for them can take minutes.
 * @returns a place on that line; null where all is well. Lines along which faces touch part nothing.
 */
export function hangingCut(args: readonly Shape[], fusion: Fusion, thorough: boolean): Vec3 | null {
  const { images } = fusion;
  const faces = images.reduce((sum, ofArg) => sum + ofArg.length, 0);
  if (!thorough && faces <= MANY_FACES && !args.some((arg, a) => isScratched(arg, a, fusion))) return null;
  if (!args.every(isElementary)) return null;
  for (const [a, skin] of images.entries()) {
    const box = shapeKind(args[a]!) === "solid" ? looseBoxOf(args[a]!) : null;
    if (!box) continue;
    for (const [b, knife] of images.entries()) {
      if (b === a || !reachesPast(args[b]!, box)) continue;
      const at = hangingOf(skin, knife.flat(), fusion);
      if (at) return at;
    }
  }
  return null;
}

/** Where two parts of a face of a solid meet along a line that only lies in a knife's face, and crosses it. */
function hangingOf(skin: readonly FaceUse[][], knife: readonly FaceUse[], fusion: Fusion): Vec3 | null {
  const loose = new Map<number, number>();
  for (const { face } of knife) for (const use of fusion.faceEdges(face)) if (use.loose) loose.set(use.edge, face);
  if (loose.size === 0) return null;
  for (const parts of skin) {
    if (parts.length < 2) continue;
    const first = new Map<number, number>();
    for (const { face } of parts)
      for (const { edge } of fusion.faceEdges(face)) {
        const [other, cut] = [first.get(edge), loose.get(edge)];
        if (other === undefined) first.set(edge, face);
        if (other === undefined || other === face || cut === undefined) continue;
        const at = middleOf(fusion.edgeHandle(edge));
        if (!areTangent(fusion.faceHandle(face), fusion.faceHandle(cut), at)) return at;
      }
  }
  return null;
}

/** Of planes, bars and balls alone: of surfaces that have a signature. */
export const isElementary = (arg: Shape): boolean => surfacesOf(arg).every(({ signature }) => signature !== null);

/** A solid whose skin is divided, and which is one cell all the same. */
export function isScratched(arg: Shape, a: number, { cells, images }: Fusion): boolean {
  return (
    shapeKind(arg) === "solid" &&
    images[a]!.some((parts) => parts.length > 1) &&
    cells.filter(({ within }) => within.includes(a)).length === 1
  );
}

const areTangent = (one: Shape, other: Shape, at: Vec3): boolean =>
  Math.abs(dot(unit(normalNear(one, at)), unit(normalNear(other, at)))) > TANGENT;

function middleOf(edge: Shape): Vec3 {
  return scoped((scope) => {
    const curve = scope.use(new (lib().BRepAdaptor_Curve)(asEdge(scope, edge)));
    const at = scope.use(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2));
    return [at.X(), at.Y(), at.Z()];
  });
}

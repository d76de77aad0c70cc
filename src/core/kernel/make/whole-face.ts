import { flatOf } from "../facts/planes";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asFace, facesOf, type Shape, shellOf } from "../library/topology";
import { type Box, centre, corners, diagonal, dot, scale, sub } from "../space/vectors";
import { naturalSheet } from "./natural-sheet";
import { makePlaneFace } from "./primitives";

/** mm that a face goes on past what it has to reach through, so that it never ends on its skin. */
const PAST = 1;

/**
 * A face run on along its own surface until it reaches through a box: a flat one as its plane, a round one all round and along its
 * axis, a cone to its tip and on from there to where it is as wide as the box asks for, a ball and a ring whole, a free one as far as
 * its surface goes by itself (and on along it where that goes on for ever). It looks where the face looks. It belongs to the caller.
 * @returns null where a free surface has no shape of its own beyond the face.
 */
export function wholeFace(body: Shape, place: number, room: Box): Shape | null {
  const face = incidenceOf(body).faces[place]!;
  const { surface, forward } = face;
  if (!surface) return null;
  const plane = flatOf(face);
  if (plane) {
    const middle = centre(room);
    const at = sub(middle, scale(plane.normal, dot(sub(middle, plane.origin), plane.normal)));
    return scoped((scope) => shellOf([scope.use(makePlaneFace(at, plane.normal, diagonal(room) + PAST))]));
  }
  if (!("axis" in surface)) return naturalSheet(body, place, diagonal(room) + PAST)?.shape ?? null;
  return scoped((scope) => {
    const [us, vs] = spanOf(scope, body, place, room);
    const oc = lib();
    const own = scope.use(oc.BRep_Tool.Surface(asFace(scope, facesOf(body)[place]!)));
    const maker = scope.use(new oc.BRepBuilderAPI_MakeFace(own, ...us, ...vs, 1e-7));
    if (!maker.IsDone()) return null;
    const made = scope.use(maker.Face());
    return shellOf([forward ? made : scope.use(made.Reversed())]);
  });
}

type Span = [from: number, to: number];
const ROUND: Span = [0, 2 * Math.PI];

/** The parameters between which a round surface reaches through a box. */
function spanOf(scope: Scope, body: Shape, place: number, room: Box): [Span, Span] {
  const { surface } = incidenceOf(body).faces[place]!;
  if (!surface || !("axis" in surface)) throw new Error("Only elementary surfaces have a span.");
  const heights = corners(room).map((corner) => dot(sub(corner, surface.at), surface.axis));
  const [low, high] = [Math.min(...heights) - PAST, Math.max(...heights) + PAST];
  switch (surface.kind) {
    case "sphere":
      return [ROUND, [-Math.PI / 2, Math.PI / 2]];
    case "torus":
      return [ROUND, ROUND];
    case "cone": {
      // v runs along the side: it is v · cos(half) high and radius + v · sin(half) wide.
      const [along, out] = [Math.cos(surface.half), Math.sin(surface.half)];
      const tip = -surface.radius / out;
      const { VMin, VMax } = lib().BRepTools.UVBounds(asFace(scope, facesOf(body)[place]!), 0, 0, 0, 0);
      const beyond = (VMin + VMax) / 2 > tip;
      const [from, to] = [low / along, high / along];
      // Only the side of the tip on which the face lies: the other is another cone.
      return [ROUND, beyond ? [tip, Math.max(to, VMax + PAST)] : [Math.min(from, VMin - PAST), tip]];
    }
    default:
      return [ROUND, [low, high]];
  }
}

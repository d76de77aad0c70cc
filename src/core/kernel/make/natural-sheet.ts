import { patchOf } from "../binary";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asFace, type Shape, shellOf, subshapes } from "../library/topology";
import type { MadeSheet } from "./sheet";

/**
 * A free face of a body (drawn out, turned, a spline) run on to all of its own surface: where the surface ends by itself, and by
 * `reach` mm beyond the face where it goes on for ever. It looks where the face looks.
 * @returns null for other faces, which are run on by the library.
 */
export function naturalSheet(body: Shape, place: number, reach: number): MadeSheet | null {
  const { surface, forward } = incidenceOf(body).faces[place]!;
  const patch = surface && patchOf(surface);
  if (!patch) return null;
  const { breaks, alike } = patch;
  const ends = (knots: readonly number[]) => (knots.length > 1 ? ([knots[0]!, knots.at(-1)!] as const) : null);
  return scoped((scope) => {
    const oc = lib();
    const face = asFace(scope, subshapes(scope, body, "face")[place]!);
    const bounds = oc.BRepTools.UVBounds(face, 0, 0, 0, 0);
    const us = alike?.kind === "round" ? ([0, 2 * Math.PI] as const) : ends(breaks[0]);
    const vs = alike?.kind === "along" ? ([bounds.VMin - reach, bounds.VMax + reach] as const) : ends(breaks[1]);
    if (!us || !vs) return null;
    const whole = scope.use(oc.BRep_Tool.Surface(face));
    const maker = scope.use(new oc.BRepBuilderAPI_MakeFace(whole, ...us, ...vs, 1e-7));
    if (!maker.IsDone()) return null;
    const made = scope.use(maker.Face());
    return { shape: shellOf([forward ? made : scope.use(made.Reversed())]), sources: [place] };
  });
}

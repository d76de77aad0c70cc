import type { BRepOffset_Mode, GeomAbs_JoinType } from "replicad-opencascadejs";
import { isBallWedge } from "../facts/ball-wedge";
import { distanceToPoint } from "../facts/distance";
import { volumeOf } from "../facts/mass";
import { isValid, openEdges } from "../facts/measure";
import { pointOnFace } from "../facts/on-face";
import { meetsItself } from "../facts/self-contact";
import { rightSideOut } from "../facts/soundness";
import { edgeHandles, vertexHandles } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { facesOf, freeShape, fromList, type Shape, ShapeMap, subshapes } from "../library/topology";
import type { Origin, Worked } from "./edge-work";

/** How far a face may be off where it is to be, mm. */
const OFF = 1e-5;

/**
 * How the library is asked, one way after the other: whether moved faces run on to meet or are joined by arcs, and whether each is held
 * against all others or only against its neighbours. Now the one and now the other divides what meets in a corner of more than three faces.
 */
const WAYS = {
  sharp: [
    ["GeomAbs_Intersection", false],
    ["GeomAbs_Intersection", true],
    ["GeomAbs_Arc", false],
  ],
  round: [
    ["GeomAbs_Arc", false],
    ["GeomAbs_Arc", true],
  ],
} as const;

/**
 * A solid grown or shrunk by a distance, mm, all at once: its faces run on to meet, or roundings join them where they come apart. It takes
 * tangent faces and free ones as they come, for which dividing by all of them takes minutes.
 *
 * What comes of it is closed and valid, does not meet itself, has every face of the solid, and each of them lies as far off as it is to.
 * @returns null where the library cannot do it, or not soundly, or where a face is used up.
 */
export function offsetSolid(solid: Shape, by: number, corners: keyof typeof WAYS): Worked | null {
  if (isBallWedge(solid)) return null;
  for (const [join, all] of WAYS[corners]) {
    const made = scoped((scope) => offsetBy(scope, solid, by, join, all));
    if (!made) continue;
    const isRounded = made.origins.some(({ from }) => from !== "face");
    if ((corners === "round" || !isRounded) && isSound(made, solid, by)) return made;
    freeShape(made.shape);
  }
  return null;
}

function offsetBy(scope: Scope, solid: Shape, by: number, join: string, all: boolean): Worked | null {
  const oc = lib();
  const maker = scope.use(new oc.BRepOffsetAPI_MakeOffsetShape());
  try {
    maker.PerformByJoin(
      solid,
      by,
      1e-6,
      "BRepOffset_Skin" as unknown as BRepOffset_Mode,
      all,
      false,
      join as unknown as GeomAbs_JoinType,
      false,
      scope.use(new oc.Message_ProgressRange()),
    );
    if (!maker.IsDone()) return null;
  } catch (cause) {
    if (cause instanceof WebAssembly.RuntimeError) throw cause;
    return null;
  }
  const whole = scope.use(maker.Shape());
  const [result, more] = whole.IsNull() ? [] : subshapes(scope, whole, "solid");
  if (!result || more) return null;
  const known = new ShapeMap<Origin>();
  const origins = [
    ["face", facesOf],
    ["edge", edgeHandles],
    ["vertex", vertexHandles],
  ] as const;
  for (const [from, handlesOf] of origins)
    for (const [place, handle] of handlesOf(solid).entries())
      for (const image of fromList(scope, scope.use(maker.Generated(handle))))
        if (known.get(image) === undefined) known.set(image, { from, place });
  const faces = subshapes(scope, result, "face").map((face) => known.get(face));
  if (!faces.every((origin) => origin !== undefined)) return null;
  return { shape: rightSideOut(result), origins: faces };
}

function isSound({ shape, origins }: Worked, solid: Shape, by: number): boolean {
  const own = facesOf(solid);
  const kept = new Set(origins.flatMap(({ from, place }) => (from === "face" ? [place] : [])));
  if (kept.size < own.length || openEdges(shape).length > 0 || !isValid(shape)) return false;
  // Each face lies as far from the one that it came from as it is to: nearer or further it is another.
  const isThere = (face: Shape, place: number) =>
    Math.abs((distanceToPoint(own[place]!, pointOnFace(face))?.gap ?? 0) - Math.abs(by)) < OFF;
  const faces = facesOf(shape);
  if (!origins.every(({ from, place }, i) => from !== "face" || isThere(faces[i]!, place))) return false;
  const [volume, before] = [volumeOf(shape), volumeOf(solid)];
  return volume > 0 && volume > before === by > 0 && !meetsItself(shape);
}

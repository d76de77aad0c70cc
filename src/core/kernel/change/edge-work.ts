import type { ChFi3d_FilletShape } from "replicad-opencascadejs";
import { boxOf } from "../facts/box";
import { notedGap } from "../facts/gaps";
import { areaOf, volumeChange, volumeOf } from "../facts/mass";
import { isValid, openPlaces } from "../facts/measure";
import { unsoundness } from "../facts/soundness";
import { KernelFault } from "../library/faults";
import { edgeHandle, edgeHandles, incidenceOf, vertexHandles } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import {
  asFace,
  compound,
  facesOf,
  freeShape,
  fromList,
  ownHandle,
  type Shape,
  ShapeMap,
  shapeKind,
  subshapes,
} from "../library/topology";
import { diagonal } from "../space/vectors";
import type { Wanted } from "./rings/find";
import { redrawnRings } from "./rings/redraw";

/** What a face of a worked body came from: a face, edge or vertex of the body before, by place. */
export interface Origin {
  from: "face" | "edge" | "vertex";
  place: number;
}

export interface Worked {
  shape: Shape;
  /** For each face of the result. */
  origins: Origin[];
}

/** Why edges could not be worked, with those that are to blame where the library tells. */
export interface WorkFault {
  faulty: number[];
}

export interface RoundedEdge {
  place: number;
  /** mm */
  radius: number;
}

export interface CutEdge {
  place: number;
  /** How far the cut reaches on the two faces at the edge, mm: on the one that comes first in the body, and the other. */
  first: number;
  second: number;
}

/** Rounds edges of a body, and all that run smoothly on from them. */
export function roundEdges(shape: Shape, edges: readonly RoundedEdge[]): Worked | WorkFault {
  return scoped((scope) => {
    const maker = scope.use(
      new (lib().BRepFilletAPI_MakeFillet)(shape, "ChFi3d_Rational" as unknown as ChFi3d_FilletShape),
    );
    for (const { place, radius } of edges) maker.Add(radius, edgeHandle(scope, shape, place));
    const faulty = () => {
      const bad: number[] = [];
      for (let i = 1; i <= maker.NbFaultyContours(); i++) {
        const contour = maker.FaultyContour(i);
        for (let j = 1; j <= maker.NbEdges(contour); j++) {
          const edge = scope.use(maker.Edge(contour, j));
          const place = edgeHandles(shape).findIndex((other) => other.IsSame(edge));
          if (place >= 0) bad.push(place);
        }
      }
      return bad;
    };
    return finished(scope, shape, maker, faulty, { radii: [...new Set(edges.map(({ radius }) => radius))] });
  });
}

/** Cuts edges of a body off, and all that run smoothly on from them. */
export function cutEdges(shape: Shape, edges: readonly CutEdge[]): Worked | WorkFault {
  return scoped((scope) => {
    const oc = lib();
    const maker = scope.use(new oc.BRepFilletAPI_MakeChamfer(shape));
    for (const { place, first, second } of edges) {
      const edge = edgeHandle(scope, shape, place);
      if (first === second) maker.Add(first, edge);
      else {
        const side = facesOf(shape)[incidenceOf(shape).edges[place]!.faces[0] ?? -1];
        if (!side) throw new KernelFault("An edge bounds no face.", false);
        maker.Add(first, second, edge, asFace(scope, side));
      }
    }
    return finished(scope, shape, maker, () => [], "straight");
  });
}

/**
 * Whether a body whose edges were worked is nearly the one before: where a rounding comes to lie, material of its own width
 * and of its neighbours' strips is taken off or put on, and no more. The library has been seen to leave a fifth of a body.
 */
function isNearlyAll(after: Shape, before: Shape, gone: readonly number[], fresh: readonly number[]): boolean {
  const box = boxOf(before);
  const whole = volumeOf(before);
  const change = Math.abs(volumeChange(before, gone, after, fresh) ?? volumeOf(after) - whole);
  if (change <= MOST_WORKED * Math.abs(whole) && notedGap(after) <= WIDE) return true;
  const area = fresh.reduce((sum, place) => sum + areaOf(facesOf(after)[place]!), 0);
  const room = box ? area * diagonal(box) : 0;
  return change <= room && unsoundness(after, "solid") === null;
}

/** A part of a body: so much may go without a closer look. */
const MOST_WORKED = 0.1;
/** mm: the library notes a tenth of it with every rounding. */
const WIDE = 1e-3;

interface Maker {
  Build(range?: never): void;
  IsDone(): boolean;
  Shape(): Shape;
  Generated(of: Shape): Parameters<typeof fromList>[1];
  Modified(of: Shape): Parameters<typeof fromList>[1];
  IsDeleted(of: Shape): boolean;
}

function finished(
  scope: Scope,
  before: Shape,
  maker: Maker,
  faulty: () => number[],
  wanted: Wanted,
): Worked | WorkFault {
  try {
    maker.Build();
    if (!maker.IsDone()) return { faulty: faulty() };
  } catch (cause) {
    if (cause instanceof WebAssembly.RuntimeError) throw cause;
    return { faulty: faulty() };
  }
  const whole = scope.use(maker.Shape());
  const kind = shapeKind(before);
  const [result, more] = kind === "solid" ? subshapes(scope, whole, "solid") : [whole];
  if (!result || more) return { faulty: faulty() };
  const drawn = ownHandle(result);
  const places = new ShapeMap<number>();
  facesOf(drawn).forEach((face, place) => {
    places.set(face, place);
  });
  const origins: (Origin | undefined)[] = [];
  // What is there as it was came from itself; only the other faces have to be asked about.
  const changed: number[] = [];
  facesOf(before).forEach((face, place) => {
    const now = places.get(face);
    if (now === undefined) changed.push(place);
    else origins[now] = { from: "face", place };
  });
  const fresh = facesOf(drawn).flatMap((_, place) => (origins[place] ? [] : [place]));
  const trace = (from: Origin["from"], place: number, images: readonly Shape[]) => {
    for (const image of images) {
      const now = places.get(image);
      if (now !== undefined) origins[now] ??= { from, place };
    }
  };
  const made = (list: Parameters<typeof fromList>[1]) => fromList(scope, scope.use(list));
  for (const place of changed.reverse()) trace("face", place, made(maker.Modified(facesOf(before)[place]!)));
  const parts = [
    ["edge", edgeHandles],
    ["vertex", vertexHandles],
  ] as const;
  for (const [from, handlesOf] of parts) {
    if (facesOf(drawn).every((_, place) => origins[place])) break;
    const handles = handlesOf(before);
    for (let place = handles.length - 1; place >= 0; place--)
      trace(from, place, made(maker.Generated(handles[place]!)));
  }
  const shape = redrawnRings(drawn, fresh, wanted) ?? drawn;
  if (shape !== drawn) freeShape(drawn);
  // A rounding that eats its neighbours can leave a body that is open, crosses itself or is another: that is none. Faces that
  // were there before were sound before.
  if (
    kind === "solid" &&
    (openPlaces(shape).length > 0 ||
      !isValid(scope.use(compound(fresh.map((place) => facesOf(shape)[place]!)))) ||
      !isNearlyAll(shape, before, changed, fresh))
  ) {
    freeShape(shape);
    return { faulty: faulty() };
  }
  return {
    shape,
    origins: facesOf(shape).map((_, place) => origins[place] ?? { from: "face", place: -1 }),
  };
}

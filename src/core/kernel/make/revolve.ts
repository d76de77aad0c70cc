import { distanceToPoint } from "../facts/distance";
import { volumeOf } from "../facts/mass";
import { edgePoint } from "../facts/measure";
import { point } from "../library/geometry";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { compound, fromList, ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "../library/topology";
import type { PlaneFrame } from "../space/plane-frame";
import { add, sub, turned, type Vec3 } from "../space/vectors";
import { type BoundaryStep, type Drawn, edgesOf, type PlanarStretch, planarFace } from "./outline";

type Place = readonly [number, number];

/** A turn about an axis, from an angle on, radians. The axis lies in the plane of what is turned. */
export interface Turn {
  at: Vec3;
  /** Unit vector. */
  axis: Vec3;
  from: number;
  sweep: number;
}

const WHOLE = 2 * Math.PI - 1e-9;

/** A frame turned about an axis. */
function turnedFrame({ origin, normal, x }: PlaneFrame, { at, axis, from }: Turn): PlaneFrame {
  return {
    origin: add(turned(sub(origin, at), axis, from), at),
    normal: turned(normal, axis, from),
    x: turned(x, axis, from),
  };
}

function axisOf(scope: Scope, { at, axis }: Turn) {
  const oc = lib();
  return scope.use(new oc.gp_Ax1(point(scope, at), scope.use(new oc.gp_Dir(...(axis as [number, number, number])))));
}

function revolved(scope: Scope, shape: Shape, turn: Turn) {
  const oc = lib();
  const axis = axisOf(scope, turn);
  return scope.use(
    turn.sweep > WHOLE
      ? new oc.BRepPrimAPI_MakeRevol(shape, axis, false)
      : new oc.BRepPrimAPI_MakeRevol(shape, axis, turn.sweep, false),
  );
}

/** The solid that a planar region sweeps when it is turned; caps only where the turn is not a whole one. */
export function turnSolid(
  frame: PlaneFrame,
  places: readonly Place[],
  stretches: readonly PlanarStretch[],
  outline: readonly BoundaryStep[],
  holes: readonly (readonly BoundaryStep[])[],
  turn: Turn,
): Drawn {
  return scoped((scope) => {
    const start = turnedFrame(frame, turn);
    const edges = edgesOf(scope, start, places, stretches);
    const maker = revolved(scope, planarFace(scope, start, edges, outline, holes), turn);
    const made = new ShapeMap<number | "base" | "end">();
    edges.forEach((edge, i) => {
      for (const side of fromList(scope, scope.use(maker.Generated(edge)))) made.set(side, i);
    });
    if (turn.sweep <= WHOLE) {
      made.set(scope.use(maker.FirstShape()), "base");
      made.set(scope.use(maker.LastShape()), "end");
    }
    const solid = scope.use(maker.Shape());
    const shape = volumeOf(solid) < 0 ? solid.Reversed() : ownHandle(solid);
    return { shape, sources: sourcesOf(scope, shape, edges, made) };
  });
}

/** Which curve each face came from. The library forgets some of the flat sides: they are known by the curve that lies in them. */
function sourcesOf<T>(scope: Scope, shape: Shape, edges: readonly Shape[], made: ShapeMap<T>): (T | number)[] {
  const middles = edges.map((edge) => edgePoint(scope, edge, 0.5));
  return subshapes(scope, shape, "face").map((side) => {
    const known = made.get(side);
    if (known !== undefined) return known;
    const away = middles.map((middle) => distanceToPoint(side, middle)?.gap ?? Number.POSITIVE_INFINITY);
    return away.indexOf(Math.min(...away));
  });
}

/**
 * The sheet that curves sweep when they are turned.
 * @param senses for each stretch, −1 where its face looks the other way than its direction says.
 */
export function turnSheet(
  frame: PlaneFrame,
  places: readonly Place[],
  stretches: readonly PlanarStretch[],
  turn: Turn,
  senses: readonly number[] = [],
): Drawn {
  return scoped((scope) => {
    const edges = edgesOf(scope, turnedFrame(frame, turn), places, stretches);
    const maker = revolved(scope, scope.use(compound(edges)), turn);
    const made = new ShapeMap<number>();
    edges.forEach((edge, i) => {
      for (const side of fromList(scope, scope.use(maker.Generated(edge)))) made.set(side, i);
    });
    const whole = scope.use(maker.Shape());
    const sources = sourcesOf(scope, whole, edges, made);
    const faces = subshapes(scope, whole, "face").map((side, f) =>
      senses[sources[f]!] === -1 ? scope.use(side.Reversed()) : side,
    );
    return { shape: shellOf(faces), sources };
  });
}

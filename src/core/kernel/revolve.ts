import { distanceToPoint } from "./distance";
import { lib } from "./library";
import { volumeOf } from "./mass";
import { edgePoint } from "./measure";
import { type BoundaryStep, type Drawn, edgesOf, type PlanarStretch, type PlaneFrame, planarFace } from "./outline";
import { point } from "./primitives";
import { type Scope, scoped } from "./scope";
import { compound, fromList, ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "./topology";
import { add, sub, turned, type Vec3 } from "./vectors";

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
    // The library forgets some of the flat sides: they are known by the curve that lies in them.
    const middles = edges.map((edge) => edgePoint(scope, edge, 0.5));
    const sources = subshapes(scope, shape, "face").map((side) => {
      const known = made.get(side);
      if (known !== undefined) return known;
      const away = middles.map((middle) => distanceToPoint(side, middle)?.gap ?? Number.POSITIVE_INFINITY);
      return away.indexOf(Math.min(...away));
    });
    return { shape, sources };
  });
}

/** The sheet that curves sweep when they are turned. */
export function turnSheet(
  frame: PlaneFrame,
  places: readonly Place[],
  stretches: readonly PlanarStretch[],
  turn: Turn,
): Drawn {
  return scoped((scope) => {
    const edges = edgesOf(scope, turnedFrame(frame, turn), places, stretches);
    const maker = revolved(scope, scope.use(compound(edges)), turn);
    const faces: Shape[] = [];
    const sources: number[] = [];
    edges.forEach((edge, i) => {
      for (const side of fromList(scope, scope.use(maker.Generated(edge)))) {
        faces.push(side);
        sources.push(i);
      }
    });
    return { shape: shellOf(faces), sources };
  });
}

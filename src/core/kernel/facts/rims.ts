import { groupedBy } from "../../groups";
import type { Structure } from "../binary";
import { edgeHandles, incidenceOf } from "../library/incidence";
import { scoped } from "../library/scope";
import type { Shape } from "../library/topology";
import type { Vec3 } from "../space/vectors";
import { edgeLengthAt } from "./arc-length";
import { edgePoint, openPlaces } from "./measure";

/** Open edges, by place, that hang together by their vertices: each list is one rim of the skin. */
export function rimsOf({ edges }: Structure, open: readonly number[]): number[][] {
  return groupedBy(open.map((edge) => edges[edge]!.vertices)).map((places) => places.map((i) => open[i]!));
}

/** A rim of a skin, edge by edge. */
export interface Rim {
  /** mm, in all. */
  length: number;
  /** Places along each of its edges, from end to end. */
  paths: Vec3[][];
}

/** Places along an edge: enough to draw it by. */
const ALONG = 12;

/** Where a skin is open, the longest rim first. */
export function openRims(shape: Shape): Rim[] {
  const edges = edgeHandles(shape);
  return rimsOf(incidenceOf(shape), openPlaces(shape))
    .map((places) => ({
      length: places.reduce((sum, place) => sum + edgeLengthAt(shape, place), 0),
      paths: scoped((scope) =>
        places.map((place) => Array.from({ length: ALONG + 1 }, (_, i) => edgePoint(scope, edges[place]!, i / ALONG))),
      ),
    }))
    .sort((a, b) => b.length - a.length);
}

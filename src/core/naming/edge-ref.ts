import { fail } from "../errors";
import type { Body } from "../items";
import { allEdgeFacts, boxOf, diagonal, distance, type EdgeFacts, edgeFactsAt, type Vec3, verticesOf } from "../kernel";
import { type CornerRef, type EdgeRef, writeCornerRef, writeEdgeRef } from "../references";
import { SAME_PLACE } from "../tolerance";
import { withoutPlace } from "./faces";
import { kindMisfit } from "./kinds";
import { topologyNames } from "./topology-names";

/** A reference to an edge as it is now, by name and looks. */
export function edgeRefOf(body: Body, place: number): EdgeRef {
  const name = topologyNames(body.shape, body.faces).edges[place] ?? null;
  return writeEdgeRef(body.id, { name, ...allEdgeFacts(body.shape)[place]! });
}

/** A reference to a corner as it is now, by name and place. */
export function cornerRefOf(body: Body, place: number): CornerRef {
  const name = topologyNames(body.shape, body.faces).vertices[place] ?? null;
  return writeCornerRef(body.id, { name, at: verticesOf(body.shape)[place]! });
}

export interface FoundPlace {
  place: number;
  /** A sentence where it was found by its looks and not by its name. */
  warning: string | null;
}

/** Finds the edge that a reference means, as `resolveFace` finds a face. @throws SeamError */
export function resolveEdge(body: Body, ref: EdgeRef): FoundPlace {
  if (ref.edge !== undefined) {
    const names = topologyNames(body.shape, body.faces).edges;
    const place = names.indexOf(ref.edge);
    if (place >= 0) {
      const { print } = ref;
      const fit = (edge: number) => {
        const facts = print && edgeFactsAt(body.shape, edge);
        return facts ? edgeMisfit(facts, print, sizeOf(body)) : 1;
      };
      return { place, warning: print && hasNearerTwin(names, place, fit) ? TWIN_EDGE : null };
    }
  }
  if (ref.print) {
    const size = sizeOf(body);
    const place = closest(allEdgeFacts(body.shape).map((facts) => (facts ? edgeMisfit(facts, ref.print!, size) : 1)));
    if (place !== null)
      return {
        place,
        warning:
          ref.edge === undefined
            ? null
            : "A picked edge has lost its name; it was found again by its shape and place. Check it.",
      };
  }
  fail(
    ref.edge === undefined ? "edge-ambiguous" : "edge-lost",
    ref.edge === undefined
      ? "No single edge fits the description. Name the edge, or describe it more closely."
      : `The picked edge “${ref.edge}” is no longer on this body. Pick the edge again.`,
    { bodies: [body.id] },
  );
}

/** Finds the corner that a reference means. @throws SeamError */
export function resolveCorner(body: Body, ref: CornerRef): FoundPlace & { at: Vec3 } {
  const corners = verticesOf(body.shape);
  if (ref.corner !== undefined) {
    const names = topologyNames(body.shape, body.faces).vertices;
    const place = names.indexOf(ref.corner);
    if (place >= 0) {
      const { print } = ref;
      const fit = (corner: number) => (print ? distance(corners[corner]!, print.at) / sizeOf(body) : 1);
      const warning = print && hasNearerTwin(names, place, fit) ? TWIN_CORNER : null;
      return { place, at: corners[place]!, warning };
    }
  }
  if (ref.print) {
    const size = sizeOf(body);
    const place = closest(corners.map((corner) => distance(corner, ref.print!.at) / size));
    if (place !== null)
      return {
        place,
        at: corners[place]!,
        warning:
          ref.corner === undefined ? null : "A picked corner has lost its name; the nearest one was taken. Check it.",
      };
  }
  fail(
    "corner-lost",
    ref.corner === undefined
      ? "No corner is at the place described. Name the corner, or correct its place."
      : `The picked corner “${ref.corner}” is no longer on this body. Pick the corner again.`,
    { bodies: [body.id] },
  );
}

const TWIN_EDGE =
  "A picked edge is one of several alike, and another lies nearer to where it was. Check which is meant.";
const TWIN_CORNER =
  "A picked corner is one of several alike, and another lies nearer to where it was. Check which is meant.";

/** Whether something that only its place names among others may be another now: one of those fits what was picked better. */
function hasNearerTwin(names: readonly (string | null)[], place: number, misfit: (place: number) => number): boolean {
  const base = withoutPlace(names[place]!);
  if (base === names[place]) return false;
  const own = misfit(place);
  return names.some(
    (name, other) => other !== place && name !== null && withoutPlace(name) === base && misfit(other) < own - 0.005,
  );
}

const sizeOf = (body: Body): number => {
  const box = boxOf(body.shape);
  return box ? Math.max(diagonal(box), SAME_PLACE) : 1;
};

/** 0 for a perfect fit, 1 and more for none. */
function edgeMisfit(facts: EdgeFacts, print: NonNullable<EdgeRef["print"]>, size: number): number {
  let sum = kindMisfit(facts.kind, print.kind);
  if (sum === 1) return 1;
  if (print.at) sum += distance(facts.at, print.at) / size;
  if (print.length !== undefined)
    sum +=
      0.25 * Math.min(1, Math.abs(facts.length - print.length) / Math.max(print.length, facts.length, Number.EPSILON));
  return sum;
}

/** The one place that fits clearly better than any other; null when none or several do. */
function closest(misfits: readonly number[]): number | null {
  const order = misfits.map((_, i) => i).sort((a, b) => misfits[a]! - misfits[b]!);
  const [best, next] = order;
  if (best === undefined || misfits[best]! >= 0.5) return null;
  if (next !== undefined && misfits[next]! - misfits[best]! < 0.01) return null;
  return best;
}

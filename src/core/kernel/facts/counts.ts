import type { EdgeUse, Structure } from "../binary";
import { perShape } from "../library/identity";
import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import type { Vec3 } from "../space/vectors";
import { allEdgeFacts } from "./edges";
import { openPlaces } from "./measure";
import { verticesOf } from "./neighbourhoods";
import { rimsOf } from "./rims";
import { endOf, sectorsAt } from "./sectors";

/** A place where a skin touches itself: the material there has no thickness. */
export interface Pinch {
  at: Vec3;
  /** How far it runs, mm; 0 at a single point. */
  length: number;
}

export interface Counts {
  vertices: number;
  edges: number;
  faces: number;
  /** Boundary loops of faces: one for each face and one for each hole in a face. */
  loops: number;
  shells: number;
  /** Closed chains of open edges: 0 for a closed skin. */
  rims: number;
  /**
   * Handles of all skins together, from Euler–Poincaré: V − E + F − (L − F) = 2(S − G) − rims.
   * Null where a skin touches itself: it is no surface there, and the formula does not hold.
   */
  genus: number | null;
  /** Where a skin touches itself, along an edge or at a point. */
  pinches: Pinch[];
}

/**
 * Counts for the Euler–Poincaré formula, skin by skin: two skins may share a vertex. The library gives a closed curved
 * face a seam edge and shrinks edges to poles, so each face is a disc with holes; edges without length are left out,
 * the vertices that they are stay. What lies in a face without bounding it is not counted.
 */
export const countsOf = perShape((shape: Shape): Counts => {
  const incidence = incidenceOf(shape);
  const total = { vertices: 0, edges: 0, faces: 0, loops: 0 };
  const pinched: { edges: number[]; vertices: number[] } = { edges: [], vertices: [] };
  for (const shell of incidence.shells) {
    const one = countShell(incidence, shell);
    total.vertices += one.vertices;
    total.edges += one.edges;
    total.faces += one.faces;
    total.loops += one.loops;
    pinched.edges.push(...one.pinched.edges);
    pinched.vertices.push(...one.pinched.vertices);
  }
  const rims = rimsOf(incidence, openPlaces(shape)).length;
  const { vertices, edges, faces, loops } = total;
  const shells = incidence.shells.length;
  const genus = shells - (vertices - edges + faces - (loops - faces) + rims) / 2;
  const pinches = [
    ...pinched.edges.map((edge) => {
      const { at, length } = allEdgeFacts(shape)[edge]!;
      return { at, length };
    }),
    ...pinched.vertices.map((vertex) => ({ at: verticesOf(shape)[vertex]!, length: 0 })),
  ];
  return {
    ...total,
    shells,
    rims,
    genus: pinches.length === 0 && Number.isInteger(genus) ? genus : null,
    pinches,
  };
});

/** Counts of one shell, with the edges and vertices (by place) where it touches itself. */
function countShell(structure: Structure, shell: readonly number[]) {
  const { faces, edges } = structure;
  const uses = new Map<number, number>();
  const fans = new Map<number, Fan[]>();
  let [count, loops] = [0, 0];
  for (const place of shell) {
    const { bounds, wires } = faces[place]!;
    if (!bounds) continue;
    count++;
    const parts = partsAtCorners(structure, place);
    for (const wire of wires) {
      loops++;
      for (const { edge, bounds: bounding } of wire) {
        if (!bounding) continue;
        const { point, vertices } = edges[edge]!;
        if (!point) uses.set(edge, (uses.get(edge) ?? 0) + 1);
        for (const [k, vertex] of vertices.entries()) {
          const end = endOf(edge, k);
          for (const part of parts.get(vertex)?.filter(({ of }) => of.includes(end)) ?? [wire])
            fans.set(vertex, met(fans.get(vertex) ?? [], end, part));
        }
      }
    }
  }
  const pinched = [...uses].flatMap(([edge, times]) => (times > 2 ? [edge] : []));
  const onPinched = new Set(pinched.flatMap((edge) => edges[edge]!.vertices));
  const points = [...fans].flatMap(([vertex, all]) => (all.length > 1 && !onPinched.has(vertex) ? [vertex] : []));
  return {
    vertices: fans.size,
    edges: uses.size,
    faces: count,
    loops,
    pinched: { edges: pinched, vertices: points },
  };
}

/** A part of a face at a corner, by the ends of edges that it lies between; else all of a wire that goes through the corner. */
type Part = { of: readonly string[] } | readonly EdgeUse[];

/** The parts of a face at each corner that its wires pass more than once, where they can be told. */
function partsAtCorners(structure: Structure, place: number): Map<number, { of: readonly string[] }[]> {
  const passed = new Map<number, string[]>();
  for (const wire of structure.faces[place]!.wires)
    for (const { edge, bounds } of wire)
      if (bounds)
        structure.edges[edge]!.vertices.forEach((vertex, k) => {
          const ends = passed.get(vertex);
          if (ends) ends.push(endOf(edge, k));
          else passed.set(vertex, [endOf(edge, k)]);
        });
  const parts = new Map<number, { of: readonly string[] }[]>();
  for (const [vertex, ends] of passed) {
    if (ends.length <= 2 || isSeamEnd(ends)) continue;
    const sectors = sectorsAt(structure, place, vertex);
    if (sectors)
      parts.set(
        vertex,
        sectors.map((of) => ({ of })),
      );
  }
  return parts;
}

/** Whether the ends of edges at a corner of a face are one seam's, twice, and two more: the two parts there meet along the seam. */
const isSeamEnd = (ends: readonly string[]) => ends.length === 4 && new Set(ends).size === 3;

/** A fan of faces round a vertex: more than one round it means that only this point joins them. */
interface Fan {
  ends: Set<string>;
  parts: Set<Part>;
}

/** The fans round a vertex, once an end of an edge is seen to lie at a part of a face: fans that share either are one. */
function met(fans: Fan[], end: string, part: Part): Fan[] {
  const touched = fans.filter((fan) => fan.ends.has(end) || fan.parts.has(part));
  const [only] = touched;
  if (only && touched.length === 1) {
    only.ends.add(end);
    only.parts.add(part);
    return fans;
  }
  const joined: Fan = {
    ends: new Set([end, ...touched.flatMap((fan) => [...fan.ends])]),
    parts: new Set([part, ...touched.flatMap((fan) => [...fan.parts])]),
  };
  return [...fans.filter((fan) => !touched.includes(fan)), joined];
}

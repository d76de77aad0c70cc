import type { CornerRef, EdgeRef, FaceRef, Fingerprint } from "./picked";

type Place = readonly [number, number, number];

/** A face, edge or corner by what is known of it: by whoever has it at hand, the engine or the page. */
export interface KnownFace {
  name: string;
  kind: string;
  area: number;
  centre: Place;
  direction?: Place;
  radius?: number;
}
export interface KnownEdge {
  name: string | null;
  kind: string;
  length: number;
  at: Place;
}
export interface KnownCorner {
  name: string | null;
  at: Place;
}

/** mm, mm²: finer than anything that is made, and coarse enough to read. */
const round = (value: number) => Math.round(value * 1e4) / 1e4 + 0;
const three = (v: Place) => v.map(round) as [number, number, number];

/** What a face is, to find it by. */
export function fingerprintOf({ kind, area, centre, direction, radius }: Omit<KnownFace, "name">): Fingerprint {
  return {
    kind,
    area: round(area),
    centre: three(centre),
    ...(direction ? { direction: three(direction) } : {}),
    ...(radius !== undefined ? { radius: round(radius) } : {}),
  };
}

/** The reference that a step keeps of a face as it is now: by name, and by what it is. */
export function writeFaceRef(body: string, { name, ...facts }: KnownFace): FaceRef {
  return { body, face: name, print: fingerprintOf(facts) };
}

/** The reference that a step keeps of an edge as it is now. */
export function writeEdgeRef(body: string, { name, kind, length, at }: KnownEdge): EdgeRef {
  return { body, ...(name ? { edge: name } : {}), print: { kind, length: round(length), at: three(at) } };
}

/** The reference that a step keeps of a corner as it is now. */
export function writeCornerRef(body: string, { name, at }: KnownCorner): CornerRef {
  return { body, ...(name ? { corner: name } : {}), print: { at: three(at) } };
}

import type { Manifold, Mat4 } from "manifold-3d";
import { boxesMeet, centre, type Vec3 } from "../kernel/space/vectors";
import type { Move } from "../motion/moves";
import { poseOnWay } from "../motion/pose";
import type { Transform } from "../place";
import { type Skin, solidOf } from "./skin";

/** A stretch of a way on which what moves along it is in something else. */
export interface Contact {
  /** What it is in. */
  id: string;
  /** From where to where on the way, 0 to 1. */
  from: number;
  to: number;
  /** The middle of what both hold where it is deepest of the places looked at, mm. */
  at: Vec3;
}

/** In how many places along each move it is looked (the page says so, too), and how often the ends of a stretch are halved. */
const LOOKS = 48;
const ROUNDS = 10;

/**
 * What a solid is in on its way, and where: by triangles. What is no thicker than `within` mm is none, since so far two skins of triangles that lie on
 * each other may be in each other; and what is in less than one of `LOOKS` places of a move may be missed.
 * @returns in the order of the way; null where a skin is not closed.
 */
export function contactsOnWay(
  moving: Skin,
  moves: readonly Move[],
  others: readonly { id: string; skin: Skin }[],
  within: number,
): Contact[] | null {
  const mover = solidOf(moving);
  const solids = others.map(({ id, skin }) => ({ id, solid: solidOf(skin) }));
  if (!mover || solids.some(({ solid }) => !solid)) return null;
  const count = LOOKS * moves.length;
  const found = solids.flatMap(({ id, solid }) => {
    const look = (share: number) => commonAt(mover, solid!, poseOnWay(moves, share), within);
    return stretchesOf(look, count).map((stretch) => ({ id, ...stretch }));
  });
  return found.sort((a, b) => a.from - b.from);
}

/** The stretches in which something is there, their ends halved down to it. */
function stretchesOf(look: (share: number) => Common | null, count: number): Omit<Contact, "id">[] {
  const found: Omit<Contact, "id">[] = [];
  let now: { from: number; to: number; deepest: Common } | null = null;
  // What is there at one share and not at the other begins, or ends, between them.
  const edge = (inside: number, outside: number): number => {
    let [has, none] = [inside, outside];
    for (let round = 0; round < ROUNDS; round++) {
      const middle = (has + none) / 2;
      if (look(middle)) has = middle;
      else none = middle;
    }
    return has;
  };
  for (let i = 0; i <= count; i++) {
    const share = i / count;
    const common = look(share);
    if (common && !now) now = { from: i === 0 ? 0 : edge(share, (i - 1) / count), to: share, deepest: common };
    else if (common && now) {
      now.to = share;
      if (common.volume > now.deepest.volume) now.deepest = common;
    }
    if (now && (!common || i === count)) {
      const { from, to, deepest } = now;
      found.push({ from, to: common ? 1 : edge(to, share), at: deepest.at });
      now = null;
    }
  }
  return found;
}

interface Common {
  volume: number;
  at: Vec3;
}

/** What both hold where one stands so; null where that is nothing, or thinner than a skin of triangles may be off. */
function commonAt(mover: Manifold, other: Manifold, pose: Transform, within: number): Common | null {
  const there = mover.transform(columnsOf(pose));
  try {
    if (!boxesMeet(there.boundingBox(), other.boundingBox(), 0)) return null;
    const common = there.intersect(other);
    try {
      // As a plate is: half of its skin lies on each side.
      const volume = common.volume();
      return 2 * volume > within * common.surfaceArea() ? { volume, at: centre(common.boundingBox()) } : null;
    } finally {
      common.delete();
    }
  } finally {
    there.delete();
  }
}

/** As the library has it: four columns of four. */
const columnsOf = ({ rows: [x, y, z], by }: Transform): Mat4 =>
  [...[x[0], y[0], z[0], 0], ...[x[1], y[1], z[1], 0], ...[x[2], y[2], z[2], 0], ...[by[0], by[1], by[2], 1]] as Mat4;

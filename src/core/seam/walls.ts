import { dot, inwardsFrom, normalNear, orientation, pointOnFace, scale, type Vec3 } from "../kernel";
import type { Piece, Side } from "./piece";
import { sideOfPoint } from "./place-sides";
import type { Scene } from "./scene";
import { joinedApart, wrongLots } from "./wall-lots";

/** What closes parts of a sheet where they were cut: faces of the arrangement; and places where they stay open at the cut. */
export interface Walls {
  faces: number[];
  open: { edge: number; at: Vec3 }[];
}

/**
 * The parts of cutters that close parts of one stock sheet where these cut it: such as begin and end at the cut all round. They lie on
 * the side of every other cutter that the parts do, and where there are two ways round, between skins rather than beyond them, or behind the sheet.
 * @param pieces of one stock sheet, on one side of each cutter.
 */
export function wallsOf(scene: Scene, pieces: readonly Piece[]): Walls {
  const { fusion } = scene;
  const own = pieces.flatMap(({ uses }) => uses.map(({ face }) => face));
  const edges = new Map<number, number[]>();
  const edgesOf = (face: number) => {
    let found = edges.get(face);
    if (!found) {
      found = fusion.faceEdges(face).flatMap(({ edge, loose }) => (loose ? [] : [edge]));
      edges.set(face, found);
    }
    return found;
  };
  const times = new Map<number, number>();
  const count = (face: number, by: number) => {
    for (const edge of edgesOf(face)) times.set(edge, (times.get(edge) ?? 0) + by);
  };
  for (const face of own) count(face, 1);
  const open = new Set([...times].flatMap(([edge, uses]) => (uses === 1 ? [edge] : [])));
  const sides = sidesOf(pieces);
  const cutting = [...scene.uses.keys()].filter((face) => !scene.isStockFace(face));
  const walls = new Set(cutting.filter((face) => liesWith(scene, face, sides)));
  // A line that divides the sheet and not the cutter lies loose in its face.
  const atCut = new Set(cutting.flatMap((face) => fusion.faceEdges(face).map(({ edge }) => edge)));
  const cut = new Set([...open].filter((edge) => atCut.has(edge)));
  for (const face of walls) count(face, 1);
  const drop = (face: number) => {
    if (walls.delete(face)) count(face, -1);
  };
  const prune = () => {
    for (let again = true; again; ) {
      again = false;
      for (const face of walls)
        if (edgesOf(face).some((edge) => times.get(edge) === 1)) {
          drop(face);
          again = true;
        }
    }
  };
  prune();
  const skinAt = new Map(
    pieces.flatMap(({ uses }) => uses.flatMap((use) => edgesOf(use.face).map((edge) => [edge, use] as const))),
  );
  const lots = joinedApart([...walls], cut, edgesOf);
  const isBehind = (face: number) =>
    edgesOf(face).every((edge) => !cut.has(edge) || !isInFront(scene, skinAt.get(edge)!, face, edge));
  for (const lot of wrongLots(lots, cut, edgesOf, isBehind)) for (const face of lot) drop(face);
  prune();
  keepJoined(walls, cut, edgesOf, drop);
  // What would part the room behind the sheet still further is no wall of it.
  const odd = [...walls].filter((face) => edgesOf(face).some((edge) => times.get(edge)! > 2));
  for (const face of odd) drop(face);
  prune();
  const left = [...cut].filter((edge) => times.get(edge) === 1);
  return { faces: [...walls], open: left.map((edge) => ({ edge, at: middleOf(scene, skinAt.get(edge)!.face, edge) })) };
}

/** The side of each cutter that all the pieces lie on, by its place; none where they differ, or lie on both. */
function sidesOf(pieces: readonly Piece[]): Map<string, Side> {
  const [first, ...more] = pieces;
  return new Map(
    Object.entries(first!.sides).filter(
      ([cutter, side]) => side !== "both" && more.every((piece) => piece.sides[cutter] === side),
    ),
  );
}

/** Whether a cutter's face lies where the pieces do, as every other cutter parts them. */
function liesWith(scene: Scene, face: number, sides: ReadonlyMap<string, Side>): boolean {
  const own = new Set(scene.uses.get(face)!.map(({ cutter }) => cutter));
  const others = scene.cutters.filter(({ item }, c) => !own.has(c) && sides.has(item.id));
  if (others.length === 0) return true;
  const at = pointOnFace(scene.fusion.faceHandle(face));
  return others.every((cutter) => sideOfPoint(cutter, at) === sides.get(cutter.item.id));
}

/** Whether a wall leaves the sheet, where it meets it, to the side that its front looks to. */
function isInFront({ fusion }: Scene, skin: Piece["uses"][number], wall: number, edge: number): boolean {
  const [found] = inwardsFrom(fusion.faceHandle(wall), fusion.edgeHandle(edge), [0.5]);
  if (!found) return false;
  const face = fusion.faceHandle(skin.face);
  return dot(found.into, scale(normalNear(face, found.at), skin.sign * orientation(face))) > 0;
}

/** Leaves the walls that hang together with the cut. */
function keepJoined(
  walls: ReadonlySet<number>,
  cut: ReadonlySet<number>,
  edgesOf: (face: number) => readonly number[],
  drop: (face: number) => void,
): void {
  const reached = new Set(cut);
  const rest = new Set(walls);
  for (let again = true; again; ) {
    again = false;
    for (const face of rest)
      if (edgesOf(face).some((edge) => reached.has(edge))) {
        for (const edge of edgesOf(face)) reached.add(edge);
        rest.delete(face);
        again = true;
      }
  }
  for (const face of rest) drop(face);
}

function middleOf({ fusion }: Scene, face: number, edge: number): Vec3 {
  const handle = fusion.faceHandle(face);
  return inwardsFrom(handle, fusion.edgeHandle(edge), [0.5])[0]?.at ?? pointOnFace(handle);
}

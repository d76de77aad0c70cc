import { areaOf, inwardsFrom, normalNear, orientation, pointOnFace, scale, type Vec3 } from "../kernel";
import type { FoundPiece } from "./division";
import type { CutterUse, Scene } from "./scene";

/** Where a cutter cuts, and the way that its front looks there; of a solid cutter, outwards. */
export interface Front {
  /** By id. */
  cutter: string;
  at: Vec3;
  way: Vec3;
  /** How large the cut is there, mm²: of several the largest is told. 0 where a sheet is cut. */
  size: number;
}

/** One place for each cutter that tells sides apart, on the largest of the faces that it parts pieces with. */
export function frontsOf(scene: Scene, pieces: readonly FoundPiece[]): Front[] {
  return largest([...throughSolids(scene, pieces), ...throughSheets(scene, pieces)]);
}

/** Of each cutter the one that is told. */
export function largest(fronts: readonly Front[]): Front[] {
  const best = new Map<string, Front>();
  for (const front of fronts) if (front.size > (best.get(front.cutter)?.size ?? -1)) best.set(front.cutter, front);
  return [...best.values()];
}

function throughSolids(scene: Scene, pieces: readonly FoundPiece[]): Front[] {
  const cut = new Set(pieces.flatMap(({ form, uses }) => (form === "solid" ? uses.map(({ face }) => face) : [])));
  const best = new Map<number, { face: number; use: CutterUse; size: number }>();
  for (const [face, uses] of scene.uses) {
    if (!cut.has(face) || scene.isStockFace(face)) continue;
    const size = areaOf(scene.fusion.faceHandle(face));
    for (const use of uses)
      if (use.sense !== 0 && size > (best.get(use.cutter)?.size ?? -1)) best.set(use.cutter, { face, use, size });
  }
  return [...best.values()].flatMap(({ face, use, size }) =>
    frontsAt(scene, face, [use], pointOnFace(scene.fusion.faceHandle(face)), size),
  );
}

function throughSheets(scene: Scene, pieces: readonly FoundPiece[]): Front[] {
  const sheets = pieces.filter(({ form }) => form === "sheet");
  if (sheets.length === 0) return [];
  const { fusion } = scene;
  const facesAt = new Map<number, number>();
  for (const { uses } of sheets)
    for (const { face } of uses) for (const { edge } of fusion.faceEdges(face)) facesAt.set(edge, face);
  return [...scene.uses].flatMap(([knife, uses]) =>
    fusion.faceEdges(knife).flatMap(({ edge }) => {
      const face = facesAt.get(edge);
      if (face === undefined || face === knife) return [];
      const [found] = inwardsFrom(fusion.faceHandle(face), fusion.edgeHandle(edge), [0.5]);
      return found ? frontsAt(scene, knife, uses, found.at, 0) : [];
    }),
  );
}

function frontsAt(scene: Scene, face: number, uses: readonly CutterUse[], at: Vec3, size: number): Front[] {
  const shape = scene.fusion.faceHandle(face);
  const normal = scale(normalNear(shape, at), orientation(shape));
  return uses.flatMap(({ cutter, sense }) =>
    sense === 0 ? [] : [{ cutter: scene.cutters[cutter]!.item.id, at, way: scale(normal, sense), size }],
  );
}

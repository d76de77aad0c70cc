import { areaOf, dot, inwardsFrom, normalNear, orientation, pointOnFace, type Shape, scale, shellOf } from "../kernel";
import type { FoundPiece } from "./division";
import { once } from "./once";
import type { Side } from "./piece";
import { sideOfPoint } from "./place-sides";
import type { CutterUse, Scene } from "./scene";

interface Use {
  face: number;
  sign: 1 | -1;
}

/** A cutter's face that ends a piece along an edge, and the side of the cutter that the piece lies on there. */
interface Cut {
  cutter: number;
  face: number;
  side: Side | null;
}

/** Where along an edge its sides are looked at: more than one place, since a cutter may touch a sheet at any. */
const LOOKS = [0.5, 0.31, 0.73, 0.12, 0.9];
/** How far from square to a cutter a sheet may leave it and still tell its side: sines of less are as good as tangent. */
const FLAT = 1e-5;

/** The parts of stock sheets, divided along the curves where something crosses them. */
export function sheetPieces(scene: Scene, owned: Shape[]): FoundPiece[] {
  if (!scene.stock.some(({ kind }) => kind === "sheet")) return [];
  const cutters = cuttersAtEdges(scene);
  return scene.stock.flatMap((body, a) => {
    if (body.kind !== "sheet") return [];
    const uses = scene.fusion.images[a]!.flat().filter((use): use is Use => use.sign !== 0);
    const groups = acrossPlainEdges(scene, a, uses, cutters);
    const cuts = groups.map((group) => cutsOf(scene, group, cutters));
    const known = cuts.map(sidesAtCuts);
    spread(scene, groups, cuts, cutters, known);
    return groups.map((group, i): FoundPiece => {
      const handles = group.map(({ face }) => scene.fusion.faceHandle(face));
      const shape = shellOf(handles);
      owned.push(shape);
      const middle = once(() =>
        pointOnFace(handles.reduce((best, handle) => (areaOf(handle) > areaOf(best) ? handle : best))),
      );
      const sides: Record<string, Side> = {};
      scene.cutters.forEach((cutter, c) => {
        sides[cutter.item.id] = known[i]!.get(c) ?? sideOfPoint(cutter, middle());
      });
      return {
        ...scene.kinds([body.id], sides),
        form: "sheet",
        stock: [body.id],
        sides,
        faces: group.map(({ face }) => scene.names.get(face)!),
        bounds: new Set([
          ...group.map(({ face, sign }) => scene.bound(face, sign)),
          ...cuts[i]!.map(({ face, side }) => scene.cutBound(face, side)),
        ]),
        spans: once(() => scene.spansAt(group)),
        spot: once(() =>
          scene.spotOf(
            shape,
            [body.id],
            cuts[i]!.map(({ cutter }) => cutter),
          ),
        ),
        cutBy: once(() =>
          scene.cutBy([
            ...cuts[i]!.map(({ cutter }) => cutter),
            ...group.flatMap(({ face }) => scene.uses.get(face)?.map(({ cutter }) => cutter) ?? []),
          ]),
        ),
        uses: group,
        shape,
        fusion: scene.fusion,
      };
    });
  });
}

/** Which faces of cutters end at an edge of the arrangement. */
function cuttersAtEdges({ fusion, uses }: Scene): Map<number, { face: number; use: CutterUse }[]> {
  const at = new Map<number, { face: number; use: CutterUse }[]>();
  for (const [face, list] of uses)
    for (const { edge } of fusion.faceEdges(face)) {
      const entries = list.map((use) => ({ face, use }));
      const before = at.get(edge);
      if (before) before.push(...entries);
      else at.set(edge, entries);
    }
  return at;
}

function acrossPlainEdges(
  scene: Scene,
  body: number,
  uses: Use[],
  cutters: ReturnType<typeof cuttersAtEdges>,
): Use[][] {
  const { fusion } = scene;
  const ends = new Set<number>();
  const byEdge = new Map<number, number[]>();
  uses.forEach(({ face }, i) => {
    for (const { edge, crossing } of fusion.faceEdges(face)) {
      if (crossing || cutters.has(edge)) ends.add(edge);
      const list = byEdge.get(edge);
      if (list) list.push(i);
      else byEdge.set(edge, [i]);
    }
  });
  const others = once(() => edgesOfOthers(scene, body));
  /** Lines of a cutter's skin amid a part of the sheet that lies in it, as where the library begins to go round it, end nothing. */
  const amidSkin = (edge: number) => {
    const at = cutters.get(edge);
    return (
      at?.every(({ use: { cutter } }) =>
        byEdge.get(edge)!.every((i) => scene.uses.get(uses[i]!.face)?.some((use) => use.cutter === cutter)),
      ) && !others().has(edge)
    );
  };
  const crossed = new Set([...ends].filter((edge) => !amidSkin(edge)));
  const group = uses.map(() => -1);
  let count = 0;
  uses.forEach((_, start) => {
    if (group[start] !== -1) return;
    const queue = [start];
    group[start] = count;
    while (queue.length > 0)
      for (const { edge } of fusion.faceEdges(uses[queue.pop()!]!.face))
        if (!crossed.has(edge))
          for (const other of byEdge.get(edge)!)
            if (group[other] === -1) {
              group[other] = count;
              queue.push(other);
            }
    count++;
  });
  return Array.from({ length: count }, (_, g) => uses.filter((_use, i) => group[i] === g));
}

/** The edges of all stock but one body, by place. */
const edgesOfOthers = ({ fusion, stock }: Scene, body: number): ReadonlySet<number> =>
  new Set(
    stock
      .flatMap((_, a) => (a === body ? [] : fusion.images[a]!.flat()))
      .flatMap(({ face }) => fusion.faceEdges(face).map(({ edge }) => edge)),
  );

/** What ends a piece, and on which side of it the piece lies: told where it ends, by the way that leads into it. */
function cutsOf(scene: Scene, group: readonly Use[], cutters: ReturnType<typeof cuttersAtEdges>): Cut[] {
  const { fusion } = scene;
  const own = new Set(group.map(({ face }) => face));
  const cuts: Cut[] = [];
  for (const { face } of group)
    for (const { edge } of fusion.faceEdges(face))
      for (const { face: cutting, use } of cutters.get(edge) ?? [])
        if (!own.has(cutting))
          cuts.push({ cutter: use.cutter, face: cutting, side: sideAtEdge(scene, face, edge, cutting, use) });
  return cuts;
}

function sideAtEdge(scene: Scene, face: number, edge: number, cutting: number, use: CutterUse): Side | null {
  if (use.sense === 0) return null;
  const { fusion } = scene;
  const knife = fusion.faceHandle(cutting);
  const facing = use.sense * orientation(knife);
  for (const look of LOOKS) {
    const [found] = inwardsFrom(fusion.faceHandle(face), fusion.edgeHandle(edge), [look]);
    if (!found) return null;
    const rise = dot(found.into, scale(normalNear(knife, found.at), facing));
    if (Math.abs(rise) < FLAT) continue;
    if (scene.isSolidCutter(use.cutter)) return rise > 0 ? "out" : "in";
    return rise > 0 ? "front" : "back";
  }
  return null;
}

function sidesAtCuts(cuts: readonly Cut[]): Map<number, Side> {
  const sides = new Map<number, Side>();
  for (const { cutter, side } of cuts) {
    if (!side) continue;
    const before = sides.get(cutter);
    sides.set(cutter, before && before !== side ? "both" : side);
  }
  return sides;
}

/** Crossing an edge that is not a cutter's does not change the side of it: neighbours tell each other. */
function spread(
  scene: Scene,
  groups: readonly Use[][],
  cuts: readonly Cut[][],
  cutting: ReturnType<typeof cuttersAtEdges>,
  known: Map<number, Side>[],
): void {
  const byEdge = new Map<number, number[]>();
  groups.forEach((group, i) => {
    for (const { face } of group)
      for (const { edge } of scene.fusion.faceEdges(face)) byEdge.set(edge, [...(byEdge.get(edge) ?? []), i]);
  });
  scene.cutters.forEach((_, c) => {
    const queue = groups.map((_group, i) => i).filter((i) => known[i]!.has(c) && known[i]!.get(c) !== "both");
    while (queue.length > 0) {
      const i = queue.pop()!;
      for (const { face } of groups[i]!)
        for (const { edge } of scene.fusion.faceEdges(face)) {
          if (cutting.get(edge)?.some(({ use }) => use.cutter === c)) continue;
          for (const other of byEdge.get(edge)!)
            if (!known[other]!.has(c) && !cuts[other]!.some(({ cutter }) => cutter === c)) {
              known[other]!.set(c, known[i]!.get(c)!);
              queue.push(other);
            }
        }
    }
  });
}

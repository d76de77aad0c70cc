import { Groups } from "../../groups";
import { looseBoxOf } from "../facts/box";
import { KernelFault } from "../library/faults";
import { incidenceOf } from "../library/incidence";
import { facesOf, freeShape, type Shape, shapeKind } from "../library/topology";
import { makePlaneFace } from "../make/primitives";
import { solidFromFaces } from "../make/solid-from-faces";
import { centre, corners, cross, diagonal, dot, length, scale, sub, unit, type Vec3 } from "../space/vectors";
import { type Cell, type FaceUse, type Fusion, fuseOnce } from "./general-fuse";

/** In how many planes a body is parted at most. */
const PLANES = 2;

/** A part of an argument that was parted first. */
interface Half {
  arg: number;
  shape: Shape;
  /** For each face, the argument's face (by place) that it is part of; −1 for one that only parts. */
  origins: number[];
}

/**
 * Divides arguments with round bodies parted first in the planes of the others' flat faces, and joins the parts again
 * afterwards. Where a flat face ends just where a round body is tangent (a pipe run on from a ring of its own section), the
 * library then has an edge to end at.
 * @returns null where no body can be parted so. @throws KernelFault
 */
export function fuseHalved(args: readonly Shape[], crossings: boolean, manner: PartingManner): Fusion | null {
  const owned: Shape[] = [];
  const freeOwned = () => {
    for (const shape of owned) freeShape(shape);
    owned.length = 0;
  };
  try {
    const parts = args.flatMap((arg, a) => partsOf(arg, a, args, owned, manner));
    if (parts.length === args.length) {
      freeOwned();
      return null;
    }
    const fine = fuseOnce(
      parts.map(({ shape }) => shape),
      0,
      crossings,
    );
    try {
      const joined = joinParts(args, parts, fine, owned);
      return {
        ...joined,
        free() {
          fine.free();
          freeOwned();
        },
      };
    } catch (cause) {
      fine.free();
      throw cause;
    }
  } catch (cause) {
    freeOwned();
    throw cause;
  }
}

const isRound = (shape: Shape) => incidenceOf(shape).faces.some(({ surface }) => surface?.kind !== "plane");

interface PartingPlane {
  origin: Vec3;
  normal: Vec3;
}

/** Adds a plane to others, where none of them is the same. */
function addPlane(found: PartingPlane[], plane: PartingPlane): void {
  const same = found.some(
    ({ origin, normal }) =>
      Math.abs(dot(normal, plane.normal)) > 1 - 1e-9 && Math.abs(dot(sub(origin, plane.origin), plane.normal)) < 1e-6,
  );
  if (!same) found.push(plane);
}

/** The planes of other arguments' flat faces that run through a body, each once. */
function planesThrough(a: number, args: readonly Shape[]): PartingPlane[] {
  const box = looseBoxOf(args[a]!);
  if (!box) return [];
  const found: PartingPlane[] = [];
  args.forEach((other, b) => {
    if (b === a) return;
    for (const { surface } of incidenceOf(other).faces) {
      if (surface?.kind !== "plane") continue;
      const { at: origin, axis: normal } = surface;
      const heights = corners(box).map((corner) => dot(sub(corner, origin), normal));
      if (Math.min(...heights) > -1e-3 || Math.max(...heights) < 1e-3) continue;
      addPlane(found, { origin, normal });
    }
  });
  return found.slice(0, PLANES);
}

/** Planes through the axis of a round body along which flat faces of others touch it, or nearly. */
function meridians(a: number, args: readonly Shape[]): PartingPlane[] {
  const found: PartingPlane[] = [];
  for (const { surface: round } of incidenceOf(args[a]!).faces) {
    if (round?.kind !== "cylinder") continue;
    args.forEach((other, b) => {
      if (b === a) return;
      for (const { surface: flat } of incidenceOf(other).faces) {
        if (flat?.kind !== "plane") continue;
        const across = cross(round.axis, flat.axis);
        if (length(across) < 1 - LEANING) continue;
        const height = Math.abs(dot(sub(flat.at, round.at), flat.axis));
        if (Math.abs(height - round.radius) > LEANING * round.radius) continue;
        addPlane(found, { origin: round.at, normal: unit(across) });
      }
    });
  }
  return found.slice(0, PLANES);
}

/** How far a flat face may be off tangent, as a part of the radius and as a cosine, for a round body to be parted where it touches. */
const LEANING = 2e-2;

/**
 * In which planes round bodies are parted: those of the others' flat faces, or through their axes to where flat faces touch; in the first of
 * the flat ones alone, or in those after it, where all of them together cut where it is no help.
 */
export const PARTINGS = ["flats", "meridians", "both", "first", "later"] as const;
type PartingManner = (typeof PARTINGS)[number];

function partsOf(arg: Shape, a: number, args: readonly Shape[], owned: Shape[], manner: PartingManner): Half[] {
  const whole: Half = { arg: a, shape: arg, origins: facesOf(arg).map((_, f) => f) };
  if (shapeKind(arg) !== "solid" || !isRound(arg)) return [whole];
  const flats = planesThrough(a, args);
  const planes = {
    flats,
    meridians: meridians(a, args),
    both: [...flats, ...meridians(a, args)],
    first: flats.length > 1 ? flats.slice(0, 1) : [],
    later: flats.slice(1),
  }[manner];
  const box = looseBoxOf(arg);
  if (planes.length === 0 || !box) return [whole];
  const knives = planes.map(({ origin, normal }) => {
    const middle = sub(centre(box), scale(normal, dot(sub(centre(box), origin), normal)));
    return makePlaneFace(middle, normal, diagonal(box) + 1);
  });
  owned.push(...knives);
  const fusion = fuseOnce([arg, ...knives], 0, false);
  try {
    const origins = new Map<number, number>();
    fusion.images[0]!.forEach((images, f) => {
      for (const { face } of images) origins.set(face, f);
    });
    return fusion.cells.map((cell) => {
      const { shape, order } = solidFromFaces(
        cell.faces.flatMap(({ face, sign }) => (sign === 0 ? [] : [{ shape: fusion.faceHandle(face), sign }])),
      );
      owned.push(shape);
      const faces = cell.faces.filter(({ sign }) => sign !== 0);
      return { arg: a, shape, origins: order.map((i) => origins.get(faces[i]!.face) ?? -1) };
    });
  } finally {
    fusion.free();
  }
}

/** The division of the parts as one of the arguments: cells that only a parting lies between are one. */
function joinParts(args: readonly Shape[], parts: readonly Half[], fine: Fusion, owned: Shape[]): Fusion {
  const skins = new Set<number>();
  const images: FaceUse[][][] = args.map((arg) => facesOf(arg).map(() => []));
  parts.forEach((part, p) => {
    part.origins.forEach((origin, f) => {
      if (origin < 0) return;
      for (const use of fine.images[p]![f]!) {
        skins.add(use.face);
        images[part.arg]![origin]!.push(use);
      }
    });
  });
  const within = fine.cells.map((cell) => [...new Set(cell.within.map((p) => parts[p]!.arg))].sort((x, y) => x - y));
  const groups = new Groups(fine.cells.length);
  const byFace = new Map<number, number>();
  fine.cells.forEach((cell, i) => {
    for (const { face } of cell.faces) {
      if (skins.has(face)) continue;
      const other = byFace.get(face);
      if (other === undefined) byFace.set(face, i);
      else if (within[other]!.join() === within[i]!.join()) groups.join(i, other);
      else throw new KernelFault("The parts of a body do not fit each other.", false);
    }
  });
  const cells = groups.all().map((group): Cell => {
    const faces = group.flatMap((i) => fine.cells[i]!.faces).filter(({ face }) => skins.has(face));
    const bounding = faces.filter(({ sign }) => sign !== 0);
    const { shape, order } = solidFromFaces(bounding.map(({ face, sign }) => ({ shape: fine.faceHandle(face), sign })));
    owned.push(shape);
    const inOrder = order.map((i) => bounding[i]!);
    return { shape, faces: [...inOrder, ...faces.filter(({ sign }) => sign === 0)], within: within[group[0]!]! };
  });
  return { ...fine, cells, images, unchanged: new Set() };
}

import { fail, type Repair } from "../../errors";
import type { Body } from "../../items";
import {
  curvingOf,
  facesOf,
  freeFacesOf,
  freeShape,
  type Hollowed,
  hollowOut,
  isBallWedge,
  leastRadius,
  type Vec3,
} from "../../kernel";
import { faceNamesOf } from "../../naming";
import { formatLength } from "../../units";
import type { StepContext } from "../evaluation";
import { refuseBriefly } from "../shared/briefly";
import { largestThat } from "../shared/largest";
import { isQuick, usesUp, wallsByFaces } from "./by-walls";

/** Walls of one thickness. @throws SeamError where they do not fit, with the faces that are to blame and what would. */
export function evenWalls(
  body: Body,
  open: readonly number[],
  thickness: number,
  outward: boolean,
  context: StepContext,
): Pick<Body, "shape" | "faces"> {
  const { step } = context;
  const wedge = !outward && isBallWedge(body.shape, open);
  // The library has no way past a radius.
  const byFaces = wedge || (!outward && usesUp(body, open, thickness));
  const first = byFaces ? wallsByFaces(body, open, thickness, context) : null;
  if (first) return first;
  const done: Hollowed = wedge ? { tight: [] } : hollowOut(body.shape, open, thickness, outward, !context.brisk);
  if ("tight" in done) {
    const folded = foldedFaces(body, open, thickness, outward);
    const second = outward || byFaces ? null : wallsByFaces(body, open, thickness, context);
    if (second) return second;
    const [blamed, where] =
      folded.length > 0 ? [folded, foldedWords(folded)] : [done.tight, tightWords(done.tight, thickness)];
    refuse(body, open, thickness, outward, blamed, where, context);
  }
  const bases = done.faces.map(({ is, place }) => {
    const name = body.faces[place]!;
    return is === "old" ? name : `${step}:${is === "rim" ? "rim" : "wall"}:${name}`;
  });
  return { shape: done.shape, faces: faceNamesOf(done.shape, bases) };
}

/** With more faces than these a trial takes seconds: fewer are made. */
const MANY_FACES = 24;

/**
 * The free faces of a body that fold in part when they are moved so far, since they bend more than a wall is thick, with a place where they do. The
 * library cannot do without what folds.
 */
function foldedFaces({ shape, faces }: Body, open: readonly number[], thickness: number, outward: boolean) {
  return faces.flatMap((_, face) => {
    if (open.includes(face)) return [];
    const bend = curvingOf(shape, face)?.[outward ? "inwards" : "outwards"];
    const isFolded = bend && bend.least < thickness && (outward || bend.most >= thickness);
    return isFolded ? [{ face, at: bend.at, radius: bend.least }] : [];
  });
}

/** What is said of where it does not fit. */
function foldedWords(folded: readonly { radius: number }[]): string {
  const radius = formatLength(Math.min(...folded.map((one) => one.radius)));
  return ` ${folded.length === 1 ? "A free face bends" : `${folded.length} free faces bend`} by as little as ${radius}, and would fold.`;
}

function tightWords(tight: Tight, thickness: number): string {
  if (tight.length === 0) return "";
  return ` ${tight.length === 1 ? "At one face" : `At ${tight.length} faces`} less than ${formatLength(2 * thickness)} lies behind the skin.`;
}

type Tight = readonly { face: number; at: Vec3 }[];

function refuse(
  body: Body,
  open: readonly number[],
  thickness: number,
  outward: boolean,
  tight: Tight,
  where: string,
  context: StepContext,
): never {
  const { step } = context;
  refuseBriefly(context, "shell-tight", "thickness", body.id);
  const fits = (trial: number): boolean => {
    const quiet = { ...context, warn: () => {} };
    if (foldedFaces(body, open, trial, outward).length > 0) return false;
    const beyond = !outward && usesUp(body, open, trial);
    if (beyond && !isQuick(body, open, trial)) return false;
    const byFaces = !outward && (beyond || isBallWedge(body.shape, open));
    const done = byFaces ? wallsByFaces(body, open, trial, quiet) : hollowOut(body.shape, open, trial, outward, false);
    if (!done || "tight" in done) return false;
    freeShape(done.shape);
    return true;
  };
  const free = freeFacesOf(body.shape).some((place) => !open.includes(place));
  const way = outward ? "inwards" : "outwards";
  // Up to a radius the library can do what it cannot beyond.
  const radii = body.faces.map((_, place) => (open.includes(place) ? 0 : leastRadius(body.shape, place, way)));
  const most = largestThat(fits, thickness, free || facesOf(body.shape).length > MANY_FACES ? 3 : 10, radii);
  const smaller: Repair = { label: "Hollow by the body made smaller", step, set: { how: "smaller" } };
  const thinner: Repair[] =
    most === null ? [] : [{ label: `Make it ${formatLength(most)}`, step, set: { thickness: most } }];
  // Whether it leaves walls so thick is found out where repairs are tried.
  const [repair, ...more] = outward ? thinner : [...thinner, smaller];
  fail(
    "shell-tight",
    `${context.nameOf(body.id)} cannot be hollowed to walls of ${formatLength(thickness)}.${where}${most === null ? " Open another face, or round its edges afterwards." : ` Up to ${formatLength(most)} fits.`}`,
    {
      step,
      field: "thickness",
      bodies: [body.id],
      ...(tight[0] ? { at: [...tight[0].at] as [number, number, number] } : {}),
      ...(tight.length > 0 ? { faces: tight.map(({ face }) => ({ body: body.id, face: body.faces[face]! })) } : {}),
      ...(repair ? { repair } : {}),
      ...(more.length > 0 ? { others: more } : {}),
    },
  );
}

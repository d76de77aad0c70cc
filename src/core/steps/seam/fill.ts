import { fail } from "../../errors";
import { type Body, has, type Item } from "../../items";
import { areaOf, coversOf, facesOf, freeShape, openEdges, pointOnFace, type Shape, type Vec3 } from "../../kernel";
import { type Division, divideRoom, type Knife } from "../../seam";
import { formatLength } from "../../units";
import type { StepContext } from "../evaluation";
import { coversFor, neededCovers } from "./openings";

/** The walls of a fill: what encloses, in a room that holds it all. */
export interface Walls {
  room: Body;
  knives: readonly Knife[];
}

/**
 * Divides the room in which everything lies by the walls, and where that is wanted by what closes the openings of bodies: the pieces
 * are what is enclosed and in no solid.
 * @param owned shapes that are freed with the division, or when there is none.
 */
export function divideByWalls(
  { room, knives }: Walls,
  toClose: readonly Body[],
  owned: Shape[],
  context: StepContext,
): Division {
  let division: Division | null = null;
  const free = () => {
    division?.free();
    for (const shape of owned.splice(0)) freeShape(shape);
  };
  try {
    const covers = coversFor(toClose, owned);
    division = divideRoom(room, [...knives, ...covers], context);
    const needed = neededCovers(covers, division, knives.length, owned);
    if (needed) {
      division.free();
      division = null;
      division = divideRoom(room, [...knives, ...needed], context);
    }
    return { ...division, free };
  } catch (cause) {
    free();
    throw cause;
  }
}

/** Nothing is enclosed: says where it is open, and offers to close what has openings. */
export function refuseOpen(items: readonly Item[], close: boolean, { step, nameOf }: StepContext): never {
  const bodies = items.flatMap((item) => (has(item, "body") ? [item] : []));
  const who = items.length === 1 ? `${nameOf(items[0]!.id)} encloses` : "These enclose";
  const open = bodies.flatMap((body) => openEdges(body.shape).map((edge) => ({ ...edge, body, size: edge.length })));
  const mouths =
    close || open.length > 0 ? [] : bodies.flatMap((body) => mouthsOf(body.shape).map((mouth) => ({ ...mouth, body })));
  const [widest] = [...open, ...mouths].sort((one, other) => other.size - one.size);
  const where = !widest
    ? ""
    : open.length > 0
      ? `: ${nameOf(widest.body.id)} ends in an open edge ${formatLength(widest.size)} long`
      : `: ${items.length === 1 ? "it" : nameOf(widest.body.id)} is open here`;
  fail(
    "nothing-enclosed",
    `${who} nothing${where}. Add what closes it, as a workplane or a sheet${close || bodies.length === 0 ? "" : ", or close the openings of the bodies"}.`,
    {
      step,
      bodies: bodies.map(({ id }) => id),
      ...(widest ? { at: [...widest.at] } : {}),
      ...(close || bodies.length === 0 ? {} : { repair: { label: "Close the openings", step, set: { close: true } } }),
    },
  );
}

/** The openings in a body's skin: where, and how large, mm². */
function mouthsOf(shape: Shape): { at: Vec3; size: number }[] {
  const covers = coversOf(shape);
  if (!covers) return [];
  const found = facesOf(covers.shape).map((face) => ({ at: pointOnFace(face), size: areaOf(face) }));
  freeShape(covers.shape);
  return found;
}

/** Tells of walls that no room lies at. */
export function tellIdleWalls({ pieces }: Division, knives: readonly Knife[], context: StepContext): void {
  const idle = knives.filter(({ item }) => !pieces.some(({ sides }) => item.id in sides));
  if (idle.length === 0) return;
  const names = idle.map(({ item }) => context.nameOf(item.id));
  context.warn({
    code: "bounds-nothing",
    message: `${names.length === 1 ? `${names[0]} bounds` : `${names.slice(0, -1).join(", ")} and ${names.at(-1)} bound`} nothing that is enclosed. Move ${names.length === 1 ? "it" : "them"}, or leave ${names.length === 1 ? "it" : "them"} out.`,
    step: context.step,
    bodies: idle.map(({ item }) => item.id),
  });
}

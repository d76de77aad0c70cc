import { fail } from "../../errors";
import { type Body, has, type Item } from "../../items";
import { freeShape, type Shape } from "../../kernel";
import { type Division, divideRoom, type Knife } from "../../seam";
import type { StepContext } from "../evaluation";
import { leakOf } from "./leaks";
import { touchRepairs } from "./near";
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
export function refuseOpen(items: readonly Item[], close: boolean, context: StepContext): never {
  const { step, nameOf } = context;
  const who = items.length === 1 ? `${nameOf(items[0]!.id)} encloses` : "These enclose";
  const leak = leakOf(items, nameOf);
  const bodies = items.flatMap((item) => (has(item, "body") ? [item.id] : []));
  const closes = !close && bodies.length > 0;
  const [at, ...places] = (leak?.places ?? []).map((place): [number, number, number] => [...place]);
  const paths = (leak?.paths ?? []).map((path) => path.map((place): [number, number, number] => [...place]));
  fail(
    "nothing-enclosed",
    `${who} nothing${leak ? `: ${leak.words}` : ""}. Add what closes it, as a workplane or a sheet${closes ? ", or close the openings of the bodies" : ""}.`,
    {
      step,
      bodies,
      ...(at ? { at } : {}),
      ...(places.length > 0 ? { places } : {}),
      ...(paths.length > 0 ? { paths } : {}),
      ...(closes ? { repair: { label: "Close the openings", step, set: { close: true } } } : {}),
      // Where two nearly meet, they may be made to.
      others: touchRepairs(
        items.filter((item): item is Body => has(item, "body")),
        context,
      ),
    },
  );
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

import { has } from "@/core/items";
import { boxOf, diagonal, type Shape, viewDeflection } from "@/core/kernel";
import { contactsOnWay } from "@/core/triangles";
import type { Operation } from "./operation";

/** What a body is in on its way: of all solids that are there once its step is done, but for itself and the room that it passes through. */
export const contacts: Operation<"contacts"> = async (workshop, { job, part, step }) => {
  await workshop.triangles();
  const before = await workshop.build({ job, part, upTo: step, parties: step, known: [] });
  const { onWay } = before;
  if (!onWay || onWay.moves.length === 0) return null;
  const after = await workshop.build({ job, part, upTo: step, known: [] });
  workshop.keep(after);
  const room = `${step}:room`;
  const finest = Math.min(...after.bench.flatMap(({ item }) => (has(item, "closed") ? [linearOf(item.shape)] : [])));
  const skin = (shape: Shape) => workshop.views.meshes.mesh(shape, { linear: finest, angular: 0.2 });
  const others = after.bench.flatMap(({ item }) =>
    has(item, "closed") && item.id !== onWay.body.id && item.id !== room
      ? [{ id: item.id, skin: skin(item.shape) }]
      : [],
  );
  const found = contactsOnWay(skin(onWay.body.shape), onWay.moves, others, 2 * finest);
  return found && { contacts: found, within: 2 * finest };
};

/** How far triangles lie off at most, mm: as they are drawn. */
const linearOf = (shape: Shape): number => viewDeflection(diagonal(boxOf(shape)!)).linear;

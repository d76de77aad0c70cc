import type { Body } from "../../items";
import { compound, coversOf, facesOf, type Shape } from "../../kernel";
import type { Division, Knife } from "../../seam";

/**
 * What closes the openings of bodies, a wall for each: its faces look out of the body, so that what they close lies behind, and are
 * named by what they lie on and what bounds them. Shapes go to `owned`.
 */
export function coversFor(bodies: readonly Body[], owned: Shape[]): Knife[] {
  return bodies.flatMap((body) => {
    const covers = coversOf(body.shape);
    if (!covers) return [];
    owned.push(covers.shape);
    const faces = covers.about.map((about) => `cover:${about.map((place) => body.faces[place]!).join("|")}`);
    return [coverOf(`cover:${body.id}`, covers.shape, faces)];
  });
}

const coverOf = (id: string, shape: Shape, faces: string[]): Knife => ({
  item: { id, kind: "sheet", shape, faces, hint: { text: "Openings" } },
  shape,
  faces,
  mute: true,
});

/**
 * The covers without those that have a room on both sides: an opening within what is enclosed – between the two faces of a wall, from
 * one chamber into the next – needs none.
 * @param first of all walls in a row, where the covers begin. @returns null where all are needed. New shapes go to `owned`.
 */
export function neededCovers(
  covers: readonly Knife[],
  { pieces }: Division,
  first: number,
  owned: Shape[],
): Knife[] | null {
  const [piece] = pieces;
  if (!piece) return null;
  const times = new Map<number, number>();
  for (const { face } of pieces.flatMap(({ uses }) => uses)) times.set(face, (times.get(face) ?? 0) + 1);
  let all = true;
  const needed = covers.flatMap((cover, c) => {
    const kept = cover.faces.flatMap((_, f) => {
      // The room itself is the first thing in the arrangement.
      const images = piece.fusion.images[1 + first + c]![f]!;
      return images.some(({ face }) => (times.get(face) ?? 0) > 1) ? [] : [f];
    });
    if (kept.length === cover.faces.length) return [cover];
    all = false;
    if (kept.length === 0) return [];
    const shape = compound(kept.map((f) => facesOf(cover.shape)[f]!));
    owned.push(shape);
    return [
      coverOf(
        cover.item.id,
        shape,
        kept.map((f) => cover.faces[f]!),
      ),
    ];
  });
  return all ? null : needed;
}

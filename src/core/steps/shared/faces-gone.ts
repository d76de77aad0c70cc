import type { Body } from "../../items";
import { allFaceFacts } from "../../kernel";
import type { StepContext } from "../evaluation";

/**
 * Faces of which nothing is left are told, with their places: what was said of them has no place any more.
 * @param gone by place. @param words what became of one, and of several, behind its name, and why
 */
export function tellGone(
  gone: readonly number[],
  body: Body,
  words: { one: string; several: string },
  context: StepContext,
): void {
  if (gone.length === 0) return;
  const facts = allFaceFacts(body.shape);
  const [at, ...places] = gone.map((place) => [...facts[place]!.centre] as [number, number, number]);
  const name = context.nameOf(body.id);
  context.warn({
    code: "faces-gone",
    message: gone.length === 1 ? `A face of ${name} ${words.one}` : `${gone.length} faces of ${name} ${words.several}`,
    step: context.step,
    bodies: [body.id],
    at: at!,
    ...(places.length > 0 ? { places } : {}),
  });
}

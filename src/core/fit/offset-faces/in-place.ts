import type { Body } from "../../items";
import { moveFaces } from "../../kernel";
import type { MovedFace } from "./moved";

/** A body with faces moved so little that the same faces meet as before, by closed forms; null where it is another case. */
export function movedInPlace(
  { shape, faces }: Body,
  moved: readonly MovedFace[],
): Pick<Body, "shape" | "faces"> | null {
  const amounts = faces.map((_, place) => moved.find((face) => face.place === place)?.by ?? 0);
  const made = moveFaces(shape, amounts);
  return made && { shape: made, faces: [...faces] };
}

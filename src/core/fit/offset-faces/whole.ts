import type { Body } from "../../items";
import { offsetSolid } from "../../kernel";
import { faceNamesOf } from "../../naming";
import type { MovedFace } from "./moved";

/**
 * A body with all its faces moved by one distance, all at once: where some of them run smoothly on into others, what is moved stays tangent, and nothing
 * tells it from what runs on for the sake of others. Null where it is another case, or cannot be had so.
 */
export function movedWhole({ shape, faces }: Body, moved: readonly MovedFace[]): Pick<Body, "shape" | "faces"> | null {
  const by = moved[0]?.by ?? 0;
  if (new Set(moved.map(({ place }) => place)).size < faces.length || moved.some((face) => face.by !== by)) return null;
  const made = offsetSolid(shape, by, "sharp");
  if (!made) return null;
  return {
    shape: made.shape,
    faces: faceNamesOf(
      made.shape,
      made.origins.map(({ place }) => faces[place]!),
    ),
  };
}

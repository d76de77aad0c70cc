import type { Body } from "../../items";
import { meetingsOf } from "../../kernel";

/** Which faces of a solid meet, by name: the same text for two bodies whose faces meet alike. */
export const meetingPairs = ({ shape, faces }: Body): string => {
  const pairs = meetingsOf(shape).map(({ faces: pair }) =>
    pair
      .map((place) => faces[place])
      .sort()
      .join(" "),
  );
  return [...new Set(pairs)].sort().join();
};

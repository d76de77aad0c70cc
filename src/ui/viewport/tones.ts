import type { Tone } from "@/core/check";

/** How the parts of a scale are drawn: each by its own lightness, hue and hatching. */
interface Drawn {
  light: string;
  dark: string;
  /** 0 none, 1 wide strokes one way, 2 narrow strokes one way, 3 crossed, 4 level. */
  hatch: 0 | 1 | 2 | 3 | 4;
}

export const TONES: Record<Tone, Drawn> = {
  away: { light: "#8e6a86", dark: "#8d6085", hatch: 4 },
  "away-little": { light: "#cbb2c5", dark: "#c7a9c1", hatch: 2 },
  none: { light: "#54585c", dark: "#3c4043", hatch: 3 },
  "towards-little": { light: "#a9c6d3", dark: "#b3d0dd", hatch: 2 },
  towards: { light: "#4b8294", dark: "#5c9db1", hatch: 0 },
};

/** As many parts as a scale may have. */
export const MOST_BANDS = 8;

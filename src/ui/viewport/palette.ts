import { BODY_SRGB, type BodyColour } from "@/core/job";

/**
 * Colours of pieces: told apart with any kind of colour vision (differences in lightness as well as in hue; after the
 * set that Okabe and Ito published in 2008, darkened a little for paper). The number on the card says the same.
 */
export const PIECE_COLOURS = [
  "#d98f00",
  "#4a9fce",
  "#14866a",
  "#d6c93a",
  "#1f5fa8",
  "#c05a1a",
  "#b8618e",
  "#6f7a80",
] as const;

export const pieceColour = (index: number): string => PIECE_COLOURS[index % PIECE_COLOURS.length]!;

export interface ViewColours {
  ground: string;
  body: string;
  edge: string;
  seam: string;
  pick: string;
  cutter: string;
}

const LIGHT: ViewColours = {
  ground: "#f3f0e8",
  body: "#c9c4b8",
  edge: "#2a2d30",
  seam: "#b93a0c",
  pick: "#1f5f8b",
  cutter: "#5d7284",
};

const DARK: ViewColours = {
  ground: "#1b1e21",
  body: "#8f9499",
  edge: "#0c0e10",
  seam: "#ff8a5b",
  pick: "#8cc3ea",
  cutter: "#a9b8c4",
};

export const viewColours = (dark: boolean): ViewColours => (dark ? DARK : LIGHT);

/**
 * Quiet tints of bodies that nobody gave a colour: they differ in lightness as well as in hue (yellow to blue, which all kinds of
 * colour vision tell apart). The first is the body's own colour.
 */
export const TINTS: Record<"light" | "dark", readonly string[]> = {
  light: ["#c9c4b8", "#a9bac7", "#dcd0a4", "#b3a99b", "#c3d2da", "#bca978"],
  dark: ["#8f9499", "#6f8798", "#aca27c", "#7b7268", "#9fb2bd", "#8d7d4f"],
};

/** Colours of bodies: from dark to light as well as by hue. */
export const BODY_HEX: Record<"light" | "dark", Readonly<Record<BodyColour, string>>> = {
  light: BODY_SRGB,
  dark: {
    steel: "#8fa0ad",
    graphite: "#5f656c",
    sand: "#cdb079",
    clay: "#b8694a",
    moss: "#84945a",
    lagoon: "#46989e",
    plum: "#8d6085",
    chalk: "#e4e2dc",
  },
};

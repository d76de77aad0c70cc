/** What the tools draw with, kept while a sketch is open. Lengths in mm. */
export interface Settings {
  sides: number;
  text: string;
  height: number;
  radius: number;
  cut: number;
  gap: number;
}

export const FIRST_SETTINGS: Settings = { sides: 6, text: "Text", height: 8, radius: 3, cut: 2, gap: 3 };
export const SIDES = { least: 3, most: 60 };

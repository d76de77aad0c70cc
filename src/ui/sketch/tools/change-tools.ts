import {
  cutCorner,
  extend,
  mirror,
  offset,
  roundCorner,
  type Sketch,
  SketchFault,
  trim,
  type Vec2,
} from "@/core/sketch";
import type { Settings } from "./settings";

/** What was clicked: a place, and the point and the curve there. */
export interface Target {
  at: Vec2;
  point: string | null;
  curve: string | null;
}

export interface ChangeTool {
  label: string;
  /** What to click. */
  click: string;
  settings?: readonly (keyof Settings)[];
  /** @throws SketchFault that says what to click, or why it cannot be. */
  apply(sketch: Sketch, target: Target, picked: readonly string[], settings: Settings): Sketch;
}

const curve = ({ curve: id }: Target): string => {
  if (id === null) throw new SketchFault("Click on a curve of the drawing.");
  return id;
};
const corner = ({ point }: Target): string => {
  if (point === null) throw new SketchFault("Click on a corner: a point where two lines or arcs end.");
  return point;
};

/** Tools that change what is drawn already, by a click on it. */
export const CHANGE_TOOLS: Record<string, ChangeTool> = {
  trim: {
    label: "Trim",
    click: "Click on the stretch to take away.",
    apply: (sketch, target) => trim(sketch, curve(target), target.at),
  },
  extend: {
    label: "Extend",
    click: "Click on a line or arc near the end that is to go on.",
    apply: (sketch, target) => extend(sketch, curve(target), target.at),
  },
  round: {
    label: "Round a corner",
    click: "Click on a corner.",
    settings: ["radius"],
    apply: (sketch, target, _picked, { radius }) => roundCorner(sketch, corner(target), radius),
  },
  cut: {
    label: "Cut a corner",
    click: "Click on a corner between two lines.",
    settings: ["cut"],
    apply: (sketch, target, _picked, { cut }) => cutCorner(sketch, corner(target), cut),
  },
  mirror: {
    label: "Mirror",
    click: "Click on the line to mirror about, an axis too. What is picked is mirrored.",
    apply: (sketch, target, picked) => mirror(sketch, picked, curve(target)),
  },
  offset: {
    label: "Offset",
    click: "Click on the side where it goes. What is picked is offset as a chain.",
    settings: ["gap"],
    apply: (sketch, target, picked, { gap }) => offset(sketch, picked, gap, target.at),
  },
};

import { lib } from "./library";
import { scoped } from "./scope";
import type { Shape } from "./topology";

/** The exact shape as text, for storing. */
export function shapeToText(shape: Shape): string {
  return scoped(() => lib().BRepToolsWrapper.Write(shape));
}

/** The shape that `shapeToText` wrote, with its subshapes in the same order. */
export function shapeFromText(text: string): Shape {
  return scoped(() => lib().BRepToolsWrapper.Read(text));
}

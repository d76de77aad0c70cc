import { has } from "../../items/kinds";
import type { OutBody, OutCurve, OutItem } from "./declare";

/** The bodies among what is written. */
export const bodiesIn = (items: readonly OutItem[]): OutBody[] =>
  items.filter((item): item is OutBody => has(item, "body"));

/** The curves among what is written. */
export const curvesIn = (items: readonly OutItem[]): OutCurve[] =>
  items.filter((item): item is OutCurve => has(item, "path"));

import type { Drawn } from "../../kernel";
import { faceNamesOf } from "../../naming";
import type { Profile } from "../../sketch";

/** A side is named by the curve that it was drawn from, a cap by which it is. */
export function faceNames(step: string, { shape, sources }: Drawn, { graph }: Profile): string[] {
  const bases = sources.map((source) =>
    typeof source === "number" ? `${step}:side:${graph.stretches[source]!.curve.id}` : `${step}:cap:${source}`,
  );
  return faceNamesOf(shape, bases);
}

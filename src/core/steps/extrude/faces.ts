import { adjacency, allFaceFacts, type Drawn } from "../../kernel";
import { distinctNames } from "../../naming";
import type { Profile } from "../../sketch";

/** A side is named by the curve that it was drawn from, a cap by which it is. */
export function faceNames(step: string, { shape, sources }: Drawn, { graph }: Profile): string[] {
  const bases = sources.map((source) =>
    typeof source === "number" ? `${step}:side:${graph.stretches[source]!.curve.id}` : `${step}:cap:${source}`,
  );
  return distinctNames(
    bases,
    () => adjacency(shape).neighbours,
    (face) => allFaceFacts(shape)[face]!.centre,
  );
}

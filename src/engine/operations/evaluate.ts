import { freePieces, warnOfPinches } from "@/core/evaluate";
import { isBody } from "@/core/items";
import { readTogether } from "@/core/kernel";
import { isBodyView } from "../contract";
import type { Operation } from "./operation";

/** Builds a part and shows what is on its bench. */
export const evaluate: Operation<"evaluate"> = async (workshop, request, progress) => {
  const { views } = workshop;
  const result = await workshop.build(request, progress);
  const known = new Set(request.known);
  const bodies = result.bench.flatMap(({ item }) => (isBody(item) ? [item.shape] : []));
  readTogether([...bodies, ...(result.pieces ?? []).map(({ shape }) => shape)]);
  const items = result.bench.map((entry) => views.item(entry, result, known));
  for (const item of items) if (isBodyView(item)) known.add(item.meshId);
  const before = result.before?.map((entry) => views.item(entry, result, known));
  const pieces = result.pieces?.map((piece) => views.piece(piece, known));
  if (result.pieces) freePieces(result.pieces);
  workshop.keep(result);
  return {
    steps: warnOfPinches(result.steps, items.filter(isBodyView)),
    items,
    noted: result.noted,
    ...(before ? { before } : {}),
    ...(result.meanings ? { meanings: result.meanings } : {}),
    ...(pieces ? { pieces } : {}),
    ...(result.fronts ? { fronts: result.fronts } : {}),
  };
};

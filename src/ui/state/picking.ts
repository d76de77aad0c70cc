import { has, hasAny } from "@/core/items/kinds";
import type { CornerRef, EdgeRef, FaceRef } from "@/core/references";
import type { Field } from "@/core/steps";
import { type BodyView, type ItemView, isBodyView } from "@/engine/contract";
import { asNow, cornerRef, edgeRef, faceRef, sameCorner, sameEdge, sameFace, toggleItem, togglePart } from "./refs";
import type { Found } from "./whereabouts";
import type { Hover } from "./workspace-store";

/** Whether a field takes what lies under the pointer. */
export function accepts(field: Field, item: ItemView, hit: Hover, stock: readonly string[]): boolean {
  const body = isBodyView(item) ? item : null;
  switch (field.kind) {
    case "bodies":
      return hasAny(item, field.accepts);
    case "faces":
      return body !== null && hit.face !== null && fits(field.accepts, body.faces[hit.face]?.kind);
    case "edges":
      return body !== null && hit.edge !== undefined && fits(field.accepts, body.edges[hit.edge]?.kind);
    case "corners":
      return body !== null && hit.corner !== undefined;
    case "cutters":
      return has(item, "divides") && !stock.includes(item.id) && !stock.includes(item.step);
    default:
      return false;
  }
}

const fits = (wanted: string, kind: string | undefined): boolean =>
  kind !== undefined && (wanted === "any" || wanted === kind);

/** A field's value after a click on a face or an edge of another part. */
export function afterOtherPick(
  kind: "other-faces" | "other-edges",
  value: unknown,
  body: BodyView,
  hit: Hover,
): FaceRef[] | EdgeRef[] {
  return kind === "other-faces"
    ? togglePart(value as FaceRef[], faceRef(body, body.faces[hit.face!]!), sameFace)
    : togglePart(value as EdgeRef[], edgeRef(body, body.edges[hit.edge!]!), sameEdge);
}

/** A field's value after a click on something that it accepts, among all that can be picked. */
export function afterPick(
  field: Field,
  value: unknown,
  item: ItemView,
  hit: Hover,
  items: readonly ItemView[],
  found: Found,
): unknown {
  if (isBodyView(item)) {
    if (field.kind === "faces")
      return togglePart(value as FaceRef[], faceRef(item, item.faces[hit.face!]!), asNow(found, sameFace), field.max);
    if (field.kind === "edges")
      return togglePart(value as EdgeRef[], edgeRef(item, item.edges[hit.edge!]!), asNow(found, sameEdge), field.max);
    if (field.kind === "corners")
      return togglePart(
        value as CornerRef[],
        cornerRef(item, item.corners[hit.corner!]!),
        asNow(found, sameCorner),
        field.max,
      );
  }
  return toggleItem(found.items(value as string[]), item.id, items, field.kind === "bodies" ? field.max : undefined);
}

import type { Body } from "../../items";
import { type Shape, solidOfSheet } from "../../kernel";

/**
 * A sheet that is closed all round as the solid that it holds: what cuts it closes it again, as it does a solid. Any other body is
 * itself. @param owned takes a shape that the caller has to free.
 */
export function closedAsSolid(body: Body, owned: Shape[]): Body {
  const solid = body.kind === "sheet" ? solidOfSheet(body.shape) : null;
  if (!solid) return body;
  owned.push(solid.shape);
  return { ...body, kind: "solid", shape: solid.shape, faces: solid.order.map((place) => body.faces[place]!) };
}

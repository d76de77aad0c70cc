import type { BodyFormat } from "../declare";

export const obj: BodyFormat = {
  id: "obj",
  label: "OBJ, triangles",
  extension: "obj",
  mime: "model/obj",
  exact: false,
  takes: "any",
  holds: "In millimetres, each body with its name.",
};

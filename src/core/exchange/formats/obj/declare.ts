import type { OutFormat } from "../declare";

export const obj: OutFormat = {
  id: "obj",
  label: "OBJ, triangles",
  extension: "obj",
  mime: "model/obj",
  exact: false,
  takes: ["body"],
  holds: "In millimetres, each body with its name.",
};

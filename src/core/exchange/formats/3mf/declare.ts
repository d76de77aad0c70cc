import type { BodyFormat } from "../declare";

export const threeMf: BodyFormat = {
  id: "3mf",
  label: "3MF, triangles",
  extension: "3mf",
  mime: "model/3mf",
  exact: false,
  takes: "closed",
  holds: "In millimetres, each body with its name and colour.",
};

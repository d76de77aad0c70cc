import type { BodyFormat } from "../declare";

export const stl: BodyFormat = {
  id: "stl",
  label: "STL, triangles",
  extension: "stl",
  mime: "model/stl",
  exact: false,
  takes: "closed",
  holds: "In millimetres, all bodies as one.",
};

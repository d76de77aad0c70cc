import type { OutFormat } from "../declare";

export const stl: OutFormat = {
  id: "stl",
  label: "STL, triangles",
  extension: "stl",
  mime: "model/stl",
  exact: false,
  takes: ["closed"],
  holds: "In millimetres, all bodies as one.",
};

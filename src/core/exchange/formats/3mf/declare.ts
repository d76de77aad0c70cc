import type { OutFormat } from "../declare";

export const threeMf: OutFormat = {
  id: "3mf",
  label: "3MF, triangles",
  extension: "3mf",
  mime: "model/3mf",
  exact: false,
  takes: ["closed"],
  holds: "In millimetres, each body with its name and colour.",
};

import type { OutFormat } from "../declare";

export const dxf: OutFormat = {
  id: "dxf",
  label: "DXF, curves",
  extension: "dxf",
  mime: "image/vnd.dxf",
  exact: true,
  takes: ["path"],
  holds: "In millimetres, each curve in space, on a layer of its name.",
};

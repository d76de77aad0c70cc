import type { OutFormat } from "../declare";

export const step: OutFormat = {
  id: "step",
  label: "STEP, exact",
  extension: "step",
  mime: "model/step",
  exact: true,
  takes: ["body", "path"],
  holds: "In millimetres, each body and curve with its name.",
};

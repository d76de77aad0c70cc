import type { BodyFormat } from "../declare";

export const step: BodyFormat = {
  id: "step",
  label: "STEP, exact",
  extension: "step",
  mime: "model/step",
  exact: true,
  takes: "any",
  holds: "In millimetres, each body with its name.",
};

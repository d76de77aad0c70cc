import type { Vec3 } from "../../kernel";
import { unionBox } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt } from "../shared/handles/places";
import { AXES } from "../shared/space";
import { pattern } from "./declare";

/** The spacings of rows, at the far side of all: that goes by each of them. */
export const patternHandles = handlesFor(pattern, (values, { bodies }) => {
  const boxes = bodies.flatMap(({ box }) => (box ? [box] : []));
  if (values.what !== "bodies" || values.kind !== "rows" || boxes.length === 0) return [];
  const whole = boxes.reduce(unionBox);
  const at = (field: "spacing" | "rowSpacing", label: string, axis: keyof typeof AXES, count: number) => {
    if (!(count > 1)) return [];
    const side = toMm(values[field]) < 0 ? whole.min : whole.max;
    const place = AXES[axis].map((is, k) => (is ? side[k]! : (whole.min[k]! + whole.max[k]!) / 2)) as unknown as Vec3;
    return [lengthAt(field, label, place, AXES[axis], count - 1)];
  };
  return [
    ...at("spacing", "spacing", values.axis, Number(values.count)),
    ...at("rowSpacing", "row spacing", values.across, Number(values.rows)),
  ];
});

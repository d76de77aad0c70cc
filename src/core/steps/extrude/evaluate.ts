import { drawOutSheet, drawOutSolid } from "../../kernel";
import { toDegrees } from "../../params";
import { sensesOf } from "../../sketch";
import { evaluates } from "../evaluation";
import { goesInto } from "../shared/into/declare";
import { putInto, targetsOf } from "../shared/into/put";
import { bodiesOf, type Maker, profileFor } from "../shared/profile/profile";
import { extrude } from "./declare";
import { drafted } from "./drafted";
import { heights } from "./heights";
import { cutOff, limitOf } from "./limit";
import type { ExtrudeValues } from "./values";

export const evaluateExtrude = evaluates(extrude, {
  weighed: goesInto,
  evaluate(values, context) {
    const { item, profile } = profileFor(values, "draw out", context);
    const targets = targetsOf(values, context);
    const limit = ends(values) ? limitOf(values, item.frame, context) : null;
    const [low, high] = heights(values, item, profile, targets, limit, context);
    const between = (from: number, to: number) => {
      const maker: Maker = {
        solid: (...region) => drawOutSolid(...region, from, to),
        sheet: (...curves) => drawOutSheet(...curves, from, to, sensesOf(profile)),
      };
      return bodiesOf(values, item, profile, maker, context);
    };
    const degrees = values.as === "solid" ? toDegrees(values.draft) : 0;
    const drawn = degrees === 0 ? between(low, high) : drafted(between, item, degrees, [low, high], context);
    const bodies = limit ? cutOff(drawn, limit, values.flip ? "end" : "base", item, context) : drawn;
    return putInto(values, targets, bodies, context);
  },
});

const ends = (values: ExtrudeValues) => values.extent === "to" || values.extent === "next";

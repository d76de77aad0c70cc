import { fail } from "../../errors";
import { mirrored } from "../../kernel";
import { evaluates } from "../evaluation";
import { chosenPlane } from "../shared/plane/choose";
import { copyOf, joinedWith, repeatSteps } from "../shared/repeat/copies";
import { mirroredAt } from "../shared/repeat/elsewhere";
import { mirror } from "./declare";

export const evaluateMirror = evaluates(mirror, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    if (values.what === "steps") {
      const { origin, normal } = chosenPlane(values, "mirror in", context);
      return repeatSteps(values.steps, [mirroredAt("image", origin, normal)], context);
    }
    const bodies = context.bodies(values.bodies);
    if (bodies.length === 0) fail("nothing-picked", "Pick the bodies to mirror.", { step });
    const { origin, normal } = chosenPlane(values, "mirror in", context);
    const images = bodies.map((body) =>
      copyOf(body, mirrored(body.shape, origin, normal), step, "image", values.keep ? "mirrored" : ""),
    );
    if (values.join)
      return joinedWith(
        bodies,
        images.map((image) => [image]),
        context,
      );
    return { made: images, used: values.keep ? [] : bodies.map(({ id }) => id) };
  },
});

import * as z from "zod";
import { lengthField } from "../../params";
import { itemRef } from "../../references";
import { declareStep } from "../declare";
import { pointField } from "../shared/space";

const schema = z.object({
  place: z
    .enum(["sized", "around"])
    .default("sized")
    .describe("sized: by its sizes and place; around: round other bodies with a margin"),
  size: z
    .tuple([lengthField({ above: 0 }), lengthField({ above: 0 }), lengthField({ above: 0 })])
    .default([100, 100, 100]),
  at: pointField().default([0, 0, 0]),
  anchor: z
    .enum(["corner", "centre", "base"])
    .default("base")
    .describe("What `at` places: the lowest corner, the centre, or the centre of the base"),
  around: z.array(itemRef).max(200).default([]).describe("Bodies to put the block round"),
  margin: z.tuple([lengthField({ min: 0 }), lengthField({ min: 0 }), lengthField({ min: 0 })]).default([10, 10, 10]),
});

/** A rectangular block of stock. */
export const box = declareStep({
  type: "box",
  schema,
  words: { label: "Block", line: "A rectangular block, by its sizes or round other bodies", stage: "shape" },
  fields: [
    {
      key: "place",
      kind: "choice",
      label: "Sizes",
      options: [
        { value: "sized", label: "By sizes" },
        { value: "around", label: "Around bodies" },
      ],
    },
    {
      key: "around",
      kind: "bodies",
      label: "Around",
      accepts: ["body"],
      min: 1,
      when: { key: "place", is: ["around"] },
    },
    { key: "margin", kind: "point", label: "Margin on each side", when: { key: "place", is: ["around"] } },
    { key: "size", kind: "point", label: "Size", when: { key: "place", is: ["sized"] } },
    { key: "at", kind: "point", label: "Place", when: { key: "place", is: ["sized"] } },
    {
      key: "anchor",
      kind: "choice",
      label: "The place is its",
      when: { key: "place", is: ["sized"] },
      options: [
        { value: "base", label: "Base centre" },
        { value: "centre", label: "Centre" },
        { value: "corner", label: "Low corner" },
      ],
    },
  ],
});

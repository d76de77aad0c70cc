import { z } from "zod";
import { fail } from "../../errors";
import { drawOutSolid, type PlanarStretch } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  length: lengthField({ above: 0 }).default(60).describe("Along X, mm"),
  width: lengthField({ above: 0 }).default(30).describe("Along Y, mm"),
  height: lengthField({ above: 0 }).default(20).describe("Along Z, mm"),
  top: lengthField({ min: 0 }).default(0).describe("Length of the top along X, mm; 0 for an edge"),
  ridge: z.enum(["start", "middle"]).default("start").describe("Where the top lies over the base"),
  at: pointField().default([0, 0, 0]).describe("The low corner of the base"),
});

/** A wedge, with an edge or a narrower top. */
export const wedge = defineStep({
  type: "wedge",
  schema,
  words: { label: "Wedge", line: "A block that narrows upwards to an edge or a shorter top", stage: "shape" },
  fields: [
    { key: "length", kind: "length", label: "Length" },
    { key: "width", kind: "length", label: "Width" },
    { key: "height", kind: "length", label: "Height" },
    { key: "top", kind: "length", label: "Length of the top" },
    {
      key: "ridge",
      kind: "choice",
      label: "The top lies",
      options: [
        { value: "start", label: "Over the start" },
        { value: "middle", label: "In the middle" },
      ],
    },
    { key: "at", kind: "point", label: "Low corner" },
  ],
  refs: () => [],
  resolved: (values) => ({
    size: [toMm(values.length), toMm(values.width), toMm(values.height), toMm(values.top)],
    ridge: values.ridge,
    at: toVec3(values.at),
  }),
  weighed: () => true,
  evaluate(values, { step }) {
    const [length, width, height, top] = [values.length, values.width, values.height, values.top].map(toMm) as [
      number,
      number,
      number,
      number,
    ];
    if (top >= length - 1e-6)
      fail("no-slope", "The top is as long as the base, so nothing narrows. Make it shorter, or use a block.", {
        step,
        field: "top",
      });
    const from = values.ridge === "start" ? 0 : (length - top) / 2;
    const corners: [number, number][] = [
      [0, 0],
      [length, 0],
      [from + top, height],
    ];
    const names = ["base", "slope", "top", "start"];
    if (top > 1e-6) corners.push([from, height]);
    else names.splice(2, 1);
    const stretches = corners.map((corner, i): PlanarStretch => {
      const end = (i + 1) % corners.length;
      return { shape: { kind: "line", from: corner, to: corners[end]! }, from: 0, to: 1, start: i, end };
    });
    // The outline stands upright, and is drawn out along Y: its plane looks against it.
    const frame = { origin: toVec3(values.at), normal: [0, -1, 0], x: [1, 0, 0] } as const;
    const { shape, sources } = drawOutSolid(
      frame,
      corners,
      stretches,
      stretches.map((_, stretch) => ({ stretch, forwards: true })),
      [],
      -width,
      0,
    );
    const faces = sources.map((source) =>
      typeof source === "number"
        ? `${step}:side:${names[source]}`
        : `${step}:side:${source === "end" ? "front" : "back"}`,
    );
    return { made: [{ id: `${step}:wedge`, kind: "solid", shape, faces, hint: { text: "Wedge" } }], used: [] };
  },
});

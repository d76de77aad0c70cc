import { z } from "zod";
import { fail } from "../../errors";
import {
  extendSheet,
  freeShape,
  isConnected,
  KernelFault,
  type MadeSheet,
  offsetSheet,
  sheetFromFaces,
} from "../../kernel";
import { faceNamesOf, faceRefSchema } from "../../naming";
import { lengthField, toMm } from "../../params";
import { defineStep } from "../step";

const schema = z.object({
  faces: z.array(faceRefSchema).max(500).default([]).describe("Faces of one body"),
  distance: lengthField().default(0).describe("Along the faces' outward normals, mm"),
  extend: lengthField({ min: 0 })
    .default(0)
    .describe("How far the sheet goes on past its open edges, mm; holes in it are closed"),
});

/** A sheet copied off the faces of a body, moved and extended, to divide with. */
export const offsetSheetStep = defineStep({
  type: "offset-sheet",
  schema,
  words: {
    label: "Offset sheet",
    line: "A sheet taken off picked faces, moved away and run out past its edges",
    stage: "sheets",
  },
  fields: [
    { key: "faces", kind: "faces", label: "Faces", accepts: "any", min: 1 },
    { key: "distance", kind: "length", label: "Distance", help: "Outwards; inwards when negative" },
    {
      key: "extend",
      kind: "length",
      label: "Extend past open edges",
      help: "Holes in the faces are closed when it is more than 0",
    },
  ],
  refs: (values) => values.faces.map((ref) => ref.body),
  resolved: (values) => ({ faces: values.faces, distance: toMm(values.distance), extend: toMm(values.extend) }),
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    if (values.faces.length === 0) fail("nothing-picked", "Pick the faces that the sheet is taken off.", { step });
    const picked = values.faces.map((ref) => context.face(ref));
    const body = picked[0]!.body;
    if (picked.some((entry) => entry.body.id !== body.id))
      fail("several-bodies", "The faces belong to several bodies. Pick faces of one body.", { step });
    const places = [...new Set(picked.map((entry) => entry.face))];
    const owned: MadeSheet[] = [];
    const own = (sheet: MadeSheet) => {
      owned.push(sheet);
      return sheet;
    };
    try {
      const copy = own(sheetFromFaces(body.shape, places));
      if (!isConnected(copy.shape))
        fail(
          "faces-apart",
          "The picked faces do not hang together. Pick neighbouring faces, or make a sheet of each.",
          { step, bodies: [body.id] },
        );
      const moved = own(offsetSheet(copy, toMm(values.distance)));
      const sheet = extendSheet(moved, toMm(values.extend));
      const bases = sheet.sources.map((source) => `${step}:offset:${body.faces[source]}`);
      const faces = faceNamesOf(sheet.shape, bases);
      return {
        made: [{ id: `${step}:sheet`, kind: "sheet", shape: sheet.shape, faces, hint: { text: "Sheet" } }],
        used: [],
      };
    } catch (cause) {
      if (cause instanceof KernelFault && !cause.fatal)
        fail("offset-failed", `${cause.message} Try a smaller distance or fewer faces.`, { step, bodies: [body.id] });
      throw cause;
    } finally {
      for (const sheet of owned) freeShape(sheet.shape);
    }
  },
});

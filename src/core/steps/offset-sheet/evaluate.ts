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
import { faceNamesOf } from "../../naming";
import { toMm } from "../../params";
import { evaluates } from "../evaluation";
import { offsetSheetStep } from "./declare";

export const evaluateOffsetSheetStep = evaluates(offsetSheetStep, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    if (values.faces.length === 0) fail("nothing-picked", "Pick the faces that the sheet is taken off.", { step });
    const picked = values.faces.map((ref) => context.faces(ref));
    const body = picked[0]!.body;
    if (picked.some((entry) => entry.body.id !== body.id))
      fail("several-bodies", "The faces belong to several bodies. Pick faces of one body.", { step });
    const places = [...new Set(picked.flatMap((entry) => entry.faces))];
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

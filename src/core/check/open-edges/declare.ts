import * as z from "zod";
import { declareCheck } from "../declare";

/** Where skins end: of all bodies at once. */
export const openEdgesCheck = declareCheck({
  id: "open-edges",
  schema: z.object({}),
  words: { label: "Open edges", line: "Where skins end: how many, how long, and where, of all bodies at once" },
  fields: [],
});

import * as z from "zod";
import { fileReferences, references } from "./marks";

const id = (words: string) => z.string().min(1).max(600).describe(words);

/** An item or a step, by id. */
export const itemRef = references.add(id("An item by its id, or a step by its id for all that it made"), {
  of: "item",
});

/** A step, by id, that is done again. */
export const stepRef = references.add(id("A step by its id"), { of: "step" });

/** An imported file, by its id. */
export const fileRef = fileReferences.add(z.string().min(1).describe("Id of a file of the job"), { of: "file" });

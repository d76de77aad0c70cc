import * as z from "zod";
import { fileReferences, partReferences, references } from "./marks";

const id = (words: string) => z.string().min(1).max(600).describe(words);

/** An item or a step, by id. */
export const itemRef = references.add(id("An item by its id, or a step by its id for all that it made"), {
  of: "item",
});

/** A step, by id, that is done again. */
export const stepRef = references.add(id("A step by its id"), { of: "step" });

/** An imported file, by its id. */
export const fileRef = fileReferences.add(z.string().min(1).describe("Id of a file of the job"), { of: "file" });

/** Another part of the job, by its id; empty for none yet. */
export const partRef = partReferences.add(z.string().max(100).describe("Id of another part of the job"), {
  of: "part",
});

/** An item on the bench of another part. */
export const otherItemRef = partReferences.add(id("An item of that part by its id, or a step of it by its id"), {
  of: "item",
});

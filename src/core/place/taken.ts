import * as z from "zod";

/**
 * What a step took of another part, as it was then: the other part as it is kept in the job (`kept`), and how it lay in this one. The program
 * writes it; without it the step follows the other part as that is.
 */
export const takenSchema = z
  .strictObject({
    as: z.string().min(1).max(100).describe("Id of what is kept"),
    lies: z.array(z.number()).length(12).describe("How it lay in this part: rows of its turn, then its move, mm"),
  })
  .describe("What was taken, as it was; written by the program");
export type Taken = z.infer<typeof takenSchema>;

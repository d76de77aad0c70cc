/** What is wrong with a formula, and where in its text. */
export class FormulaError extends Error {
  constructor(
    message: string,
    /** First character concerned, from 0. */
    readonly at: number,
    readonly length = 1,
  ) {
    super(message);
    this.name = "FormulaError";
  }
}

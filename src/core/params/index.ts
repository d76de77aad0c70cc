/** Quantities, named parameters and the formulas over them. */
export { FormulaError } from "./errors";
export { EMPTY_SCOPE, evaluateFormula, type Scope } from "./evaluate";
export * from "./fields";
export { FUNCTIONS } from "./functions";
export * from "./parameter";
export { namesIn, parseFormula } from "./parse";
export * from "./quantity";
export * from "./scope";
export { MAX_FORMULA } from "./tokens";

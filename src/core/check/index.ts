export type { Band, Cell, CheckResult, CheckType, Found, Paint, Tone } from "./declare";
export * from "./facts/body-report";
export * from "./measure/between";
export { CHECKS, checkType } from "./registry";
export { runCheck } from "./runs";

export type { AskedFit, CheckedBody, FitEnd } from "./check-run";
export type { Band, Cell, CheckResult, CheckType, Found, FoundPair, Paint, Tone } from "./declare";
export * from "./facts/body-report";
export { type FitReport, fitsOf } from "./fit/fits";
export * from "./measure/between";
export { type GapCourse, type GapPlace, gapCourse } from "./measure/gap-course";
export { CHECKS, checkType } from "./registry";
export { runCheck } from "./runs";

export { gradeTolerance } from "./grades";
export { type Fit, fitOf, type Limits, limitsOf, readClass, type ToleranceClass } from "./limits";
export type { Deviations } from "./shafts";

export { type Pair, pairOf, surelyApart } from "./pair";
export { stateWords, type Verdict, verdictOf, type Wanted } from "./verdict";
export { type WantedFit, wantedFitSchema } from "./wanted";

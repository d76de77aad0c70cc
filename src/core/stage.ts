import { hearing } from "./hearing";

/**
 * Where a long computation is: a person who waits sees that it goes on, and at what. Words as they are shown: "dividing, in another
 * way".
 */
export const { tell: tellStage, hearing: hearingStages } = hearing<string>();

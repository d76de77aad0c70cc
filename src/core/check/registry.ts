import type { CheckType } from "./declare";
import { draftCheck } from "./draft/declare";
import { fitCheck } from "./fit/declare";
import { openEdgesCheck } from "./open-edges/declare";

/** The checks of a part. A new one is a folder here, a line in this list and one in `runs`. */
export const CHECKS: readonly CheckType[] = [openEdgesCheck, draftCheck, fitCheck];

export const checkType = (id: string): CheckType | undefined => CHECKS.find((check) => check.id === id);

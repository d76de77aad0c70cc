import { inspectStep } from "@/core/exchange";
import type { Operation } from "./operation";

/** Says what a STEP file holds. */
export const inspect: Operation<"inspect"> = async (_workshop, { name, bytes }) => inspectStep(bytes, name);

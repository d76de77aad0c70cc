import { writeStep } from "../../step";
import type { BodyWriter } from "../declare";

export const writeStepFile: BodyWriter = (bodies, { title }) => new TextEncoder().encode(writeStep(bodies, title));

import { writeStep } from "../../step";
import type { OutWriter } from "../declare";

export const writeStepFile: OutWriter = (items, { title }) => new TextEncoder().encode(writeStep(items, title));

import path from "node:path";
import { type Inspection, inspectStep } from "@/core/exchange";
import { checkPart21 } from "@/core/exchange/step";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { readInput } from "./output";

export async function inspect(file: string): Promise<Inspection> {
  const bytes = await readInput(file);
  const name = path.basename(file);
  checkPart21(bytes, name);
  await loadNodeKernel();
  return inspectStep(bytes, name);
}

import { outItems, writeItems } from "@/core/exchange";
import type { Operation } from "./operation";

/** Writes bodies of a part as a file. */
export const release: Operation<"release"> = async (workshop, { job, part, bodies, format, tolerance }) => {
  const { bench } = await workshop.build({ job, part, known: [] });
  const wanted = bench.filter((entry) => bodies.includes(entry.item.id));
  const own = job.parts.find((candidate) => candidate.id === part)!;
  return writeItems(format, outItems(own, wanted), { title: own.name, tolerance });
};

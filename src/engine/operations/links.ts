import { linkReports } from "@/core/evaluate";
import type { Operation } from "./operation";

/** Says of all that parts of a job bring in how it stands to what it is of. */
export const links: Operation<"links"> = async (workshop, { job }) => linkReports(job, await workshop.shared(job));

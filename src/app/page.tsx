import { database } from "@/server/db/client";
import { listSummaries } from "@/server/jobs/service";
import { JobsPage } from "@/ui/jobs/jobs-page";

export const dynamic = "force-dynamic";

export default async function Page() {
  return <JobsPage jobs={await listSummaries(await database())} />;
}

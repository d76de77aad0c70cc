import { pack } from "@/core/evaluate/pack";
import { viewKey } from "@/core/evaluate/view-key";
import type { Database } from "../db/client";
import { storedGeometry } from "../geometry/service";
import { readJob } from "./service";

/**
 * What a page stored of how the first part of a job is seen, packed together with how its bodies look; null when it was never seen as it is now.
 * @throws Problem when there is no such job.
 */
export async function storedView(db: Database, id: string): Promise<Uint8Array | null> {
  const { document } = await readJob(db, id);
  const part = document.parts[0]!;
  const view = await storedGeometry(db, viewKey(document, part));
  return view && pack({ view, looks: part.looks });
}

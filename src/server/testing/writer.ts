import { nanoid } from "nanoid";
import { edits, makeChange } from "@/core/job";
import { openDatabase } from "../db/client";
import { createJob, edit, readJob } from "../jobs/service";

/** Adds steps to a job without end, and says each when it was acknowledged: made to be killed. */
const [url, wanted] = process.argv.slice(2);
const db = await openDatabase(url!);
const { id } = wanted === "new" ? await createJob(db, { name: "Killed", units: "mm" }) : { id: wanted! };
process.stdout.write(`job ${id}\n`);
for (;;) {
  const { document, revision } = await readJob(db, id);
  const name = nanoid();
  const { change } = makeChange(document, "Ball", (draft) => {
    const part = draft.parts[0]!;
    edits.addStep(part, {
      id: `s${part.steps.length + 1}`,
      type: "sphere",
      name,
      suppressed: false,
      diameter: 10,
      at: [0, 0, 0],
    });
  })!;
  const request = { base: revision, label: "Ball", token: nanoid(), patches: change.patches as never };
  await edit(db, id, request);
  await new Promise<void>((resolve) => process.stdout.write(`${name}\n`, () => resolve()));
}

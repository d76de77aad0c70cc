import { linkVersions } from "@/core/evaluate";
import { furthest } from "@/core/fit/difference";
import { handlingOf, has, type Item, type ItemView } from "@/core/items";
import { isBodyView, type LinkDifference } from "../contract";
import type { Operation } from "./operation";

/** Holds what a step brought in, as it was taken, against what is there now. */
export const compare: Operation<"compare"> = async (workshop, { job, part, step }) => {
  const own = job.parts.find(({ id }) => id === part)!;
  const versions = linkVersions(job, await workshop.shared(job), own, step);
  return versions.map(({ name, ...both }): LinkDifference => {
    const [was, now] = [both.was, both.now].map((item) => item && viewOf(item, workshop.views.meshes));
    const measured =
      both.was && both.now && has(both.was, "body") && has(both.now, "body") && was?.mesh && now?.mesh
        ? furthest(both.was, both.now, [was.mesh.positions, now.mesh.positions])
        : null;
    return { name, was: was ?? null, now: now ?? null, furthest: measured };
  });
};

function viewOf(item: Item, meshes: Parameters<ReturnType<typeof handlingOf>["view"]>[1]["meshes"]) {
  const told = { id: item.id, was: [], lacks: [], name: "", step: "" };
  const view: ItemView = handlingOf(item).view(item, { told, key: "", extras: {}, known: new Set(), meshes });
  return {
    kind: view.kind,
    volume: isBodyView(view) ? view.measures.volume : null,
    mesh: isBodyView(view) ? view.mesh! : null,
    lines: "lines" in view ? view.lines : [],
  };
}

import type { Operation } from "./operation";

/** Says what lies on the bench of a part. */
export const list: Operation<"list"> = async (workshop, request) => {
  const { bench } = await workshop.build({ ...request, known: [] });
  return bench.map(({ item, name, was }) => ({
    id: item.id,
    kind: item.kind,
    name,
    step: item.id.split(":")[0]!,
    was,
  }));
};

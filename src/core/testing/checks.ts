import { type CheckResult, runCheck } from "../check";
import { viewMesh } from "../items";
import { MeshStore } from "../kernel";
import { ParameterScope } from "../params";
import type { Built } from "./harness";

/** Runs a check on the bodies of a part that was built. */
export function checked(built: Built, id: string, values: Record<string, unknown> = {}): CheckResult {
  const meshes = new MeshStore();
  const bodies = built.bodies.map((body) => ({
    body,
    name: built.bench.find(({ item }) => item === body)!.name,
    meshId: body.id,
    part: "part",
    at: "",
    elsewhere: null,
    mesh: viewMesh(meshes, body.shape, body.faces),
  }));
  return runCheck(id, values, new ParameterScope([{ name: "steep", unit: "deg", formula: "5", note: "" }]), bodies);
}

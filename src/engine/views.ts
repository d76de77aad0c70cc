import { measure } from "@/core/check";
import type { BenchItem, PartResult, StepReport } from "@/core/evaluate";
import { type BodyView, handlingOf, type ItemView, type ViewMesh, viewMesh } from "@/core/items";
import { innerPoint, MeshStore, surfaceCentre } from "@/core/kernel";
import type { PieceView } from "./contract";

/** What is on the bench, as the page draws it: measures and names kept with their results, meshes only where they are asked for. */
export class Views {
  private readonly meshes = new MeshStore();

  /** An item of a part that was built. @param known the meshes that the asker has. */
  item(
    { item, key, name, was, lacks }: BenchItem,
    { results, steps }: PartResult,
    known: ReadonlySet<string>,
  ): ItemView {
    const { id } = item;
    const made = (report: StepReport) => report.key === key && report.made.includes(id);
    const kept = results.get(key)!.extras;
    const extras = kept.get(id) ?? {};
    kept.set(id, extras);
    return handlingOf(item).view(item, {
      told: { id, was, lacks, name, step: steps.find(made)?.id ?? "" },
      key,
      extras,
      known,
      meshes: this.meshes,
    });
  }

  /** The mesh of a body as it is shown, and by which id. */
  meshOf(entry: BenchItem, result: PartResult): { meshId: string; mesh: ViewMesh } {
    const { meshId, mesh } = this.item(entry, result, new Set()) as BodyView;
    return { meshId, mesh: mesh! };
  }

  piece({ piece, shape, fate, decided, preset }: NonNullable<PartResult["pieces"]>[number]): PieceView {
    return {
      ...piece,
      fate,
      decided,
      preset,
      measures: measure(shape, piece.form),
      inner: innerPoint(shape),
      centre: surfaceCentre(shape),
      mesh: viewMesh(this.meshes, shape, piece.faces),
    };
  }
}

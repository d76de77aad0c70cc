import { measure } from "@/core/check";
import type { BenchItem, PartResult, StepReport } from "@/core/evaluate";
import { type BodyView, handlingOf, type ItemView, seamLength, type ViewMesh, viewMesh } from "@/core/items";
import { innerPoint, MeshStore, placeWithin, surfaceCentre } from "@/core/kernel";
import type { PieceView, SentPiece } from "./contract";

/** What is on the bench, as the page draws it: measures and names kept with their results, meshes only where they are asked for. */
export class Views {
  readonly meshes = new MeshStore();
  /** What was found out about pieces, as long as they are the same ones. */
  private readonly pieces = new WeakMap<object, PieceFacts>();
  /** Other engines may have worked for the same page, so that a number alone would not do. */
  private readonly mark = crypto.randomUUID();
  private made = 0;

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

  newMeshId(): string {
    return `${this.mark}:${++this.made}`;
  }

  piece(
    { source, piece, shape, neighbours, fate, decided, preset }: NonNullable<PartResult["pieces"]>[number],
    known: ReadonlySet<string>,
  ): SentPiece {
    let facts = this.pieces.get(source);
    if (!facts) {
      const mesh = viewMesh(this.meshes, shape, piece.faces);
      facts = {
        measures: measure(shape, piece.form),
        // For the eye: its number stands there.
        inner: piece.form === "solid" ? placeWithin(mesh) : innerPoint(shape),
        centre: surfaceCentre(shape),
        seam: seamLength(shape, piece.faces),
        meshId: this.newMeshId(),
        mesh,
      };
      this.pieces.set(source, facts);
    }
    const { mesh, ...others } = facts;
    return { ...piece, neighbours, fate, decided, preset, ...others, ...(known.has(facts.meshId) ? {} : { mesh }) };
  }
}

/** What of a piece takes time to find out and stays while it is the same piece. */
type PieceFacts = Pick<PieceView, "measures" | "inner" | "centre" | "seam" | "meshId" | "mesh">;

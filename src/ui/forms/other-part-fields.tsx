"use client";
import { useEffect, useState } from "react";
import { chainBetween, standsOf } from "@/core/job";
import type { EdgeRef, FaceRef } from "@/core/references";
import type { Field } from "@/core/steps";
import { type ItemLine, isBodyView } from "@/engine/contract";
import { useJob, usePart, useStores, useWorkspace } from "../state/context";
import { drawnId } from "../state/others";
import { edgeRef, faceRef, meant, sameEdge, sameFace, toggleItem, unmeant } from "../state/refs";
import { ItemChecks } from "./item-fields";
import { type Choice, describeEdge, describeFace, PartsField } from "./part-fields";

/** Another part of the job. One that is made of this one cannot be chosen, and says by way of which. */
export function PartField({ label, value, onChange }: { label: string; value: string; onChange(value: string): void }) {
  const job = useJob((state) => state.job);
  const part = usePart();
  const others = job.parts.filter(({ id }) => id !== part.id);
  if (others.length === 0)
    return (
      <p className="rounded border border-dashed border-line p-2 text-[0.8125rem] text-soft">
        This job has no other part yet. Add one beside the part’s name above.
      </p>
    );
  return (
    <label className="block">
      <span className="mb-1 block text-[0.8125rem] text-soft">{label}</span>
      <select
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-8 w-full rounded border border-line bg-sheet px-1.5"
      >
        {others.some(({ id }) => id === value) ? null : <option value={value}>Pick a part</option>}
        {others.map(({ id, name }) => {
          const chain = chainBetween(job, id, part.id);
          return (
            <option key={id} value={id} disabled={chain !== null}>
              {name}
              {chain ? `: is made of ${chain.slice(1).reverse().join(", by way of ")}` : ""}
            </option>
          );
        })}
      </select>
    </label>
  );
}

/** At which of its places another part is taken, where it stands in the job more than once. */
export function PlaceField({
  label,
  part,
  value,
  onChange,
}: {
  label: string;
  part: string;
  value: string;
  onChange(value: string): void;
}) {
  const source = useJob((state) => state.job.parts.find(({ id }) => id === part));
  const stands = source ? standsOf(source) : [];
  if (stands.length < 2 && value === "") return null;
  return (
    <label className="block">
      <span className="mb-1 block text-[0.8125rem] text-soft">{label}</span>
      <select
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-8 w-full rounded border border-line bg-sheet px-1.5"
      >
        {stands.some(({ at }) => at === value) ? null : <option value={value}>A place that is gone</option>}
        {stands.map(({ at, name }) => (
          <option key={at} value={at}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What lies on the bench of another part, to be ticked. */
export function ElsewhereField({
  field,
  part,
  value,
  onChange,
}: {
  field: Field;
  part: string;
  value: string[];
  onChange(value: string[]): void;
}) {
  const { items, trouble } = useBenchOf(part);
  if (part === "") return null;
  const picked = items ? meant(value, items) : [];
  const lost = items ? unmeant(value, items) : [];
  return (
    <fieldset aria-label={field.label} aria-busy={items === null && trouble === null} className="min-w-0">
      <p className="mb-1 text-[0.8125rem] text-soft">
        {field.label} <span className="num">({items ? picked.length + lost.length : value.length})</span>
      </p>
      {trouble ? (
        <p role="alert" className="rounded bg-bad-wash px-2 py-1 text-[0.8125rem] text-bad">
          {trouble}
        </p>
      ) : items === null ? (
        <p className="rounded border border-line px-2 py-1.5 text-[0.8125rem] text-soft">
          Looking what lies on its bench…
        </p>
      ) : (
        <ItemChecks
          items={items}
          picked={picked}
          lost={lost}
          onToggle={(id) => onChange(toggleItem(value, id, items))}
          onRemove={(ref) => onChange(value.filter((other) => other !== ref))}
        />
      )}
    </fieldset>
  );
}

/** Faces or edges of bodies of another part: picked in the view, where it stands round this one, or from a list. */
export function OtherPicksField<T extends FaceRef | EdgeRef>({
  field,
  values,
  value,
  onChange,
}: {
  field: Field & { kind: "other-faces" | "other-edges" };
  values: Record<string, unknown>;
  value: T[];
  onChange(value: T[]): void;
}) {
  const part = String(values[field.of]);
  const at = String(values.at ?? "");
  const unit = useJob((state) => state.job.units);
  const other = useWorkspace((state) => state.others.get(part));
  const set = useWorkspace((state) => state.set);
  // It has to be seen to be picked from.
  useEffect(() => {
    if (part !== "") set({ around: true });
  }, [part, set]);
  if (part === "") return null;
  const faces = field.kind === "other-faces";
  const choices = (other?.items ?? []).filter(isBodyView).map((body) => {
    const id = drawnId({ part, at }, body.id);
    const list = faces
      ? body.faces.map((face, i) => ({
          ref: faceRef(body, face),
          words: describeFace(face, unit),
          hover: { id, face: i },
        }))
      : body.edges.flatMap((edge, i) =>
          edge
            ? [{ ref: edgeRef(body, edge), words: describeEdge(edge, unit), hover: { id, face: null, edge: i } }]
            : [],
        );
    return { body, list: list as Choice<T>[] };
  });
  return (
    <PartsField
      field={field}
      value={value}
      choices={choices}
      same={(faces ? sameFace : sameEdge) as (a: T, b: T) => boolean}
      max={undefined}
      noun={faces ? "face" : "edge"}
      onChange={onChange}
    />
  );
}

/** What lies on the bench of a part; null while that is not known. */
function useBenchOf(part: string): { items: ItemLine[] | null; trouble: string | null } {
  const { engines } = useStores();
  const job = useJob((state) => state.job);
  const [found, setFound] = useState<{ of: string; items: ItemLine[] | null; trouble: string | null }>({
    of: "",
    items: null,
    trouble: null,
  });
  useEffect(() => {
    if (part === "") return;
    let over = false;
    engines()
      .ask("list", { job, part })
      .then(
        (items) => !over && setFound({ of: part, items, trouble: null }),
        (cause: Error) => !over && setFound({ of: part, items: null, trouble: cause.message }),
      );
    return () => {
      over = true;
    };
  }, [part, job, engines]);
  return found.of === part ? found : { items: null, trouble: null };
}

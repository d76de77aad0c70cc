"use client";
import { useId, useState } from "react";
import type { Field } from "@/core/steps";
import { api } from "../state/api";
import { useJob } from "../state/context";

/** Takes a file in: it is sent to be kept as it is, listed in the job, and named in the step. */
export function FileField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { kind: "file" }>;
  value: string;
  onChange(id: string): void;
}) {
  const id = useId();
  const files = useJob((state) => state.job.files);
  const edit = useJob((state) => state.edit);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function take(file: File): Promise<void> {
    setBusy(true);
    setProblem(null);
    try {
      const { sha256, name } = await api.keepFile(file);
      const known = files.find((entry) => entry.sha256 === sha256);
      if (known) return onChange(known.id);
      const fresh = `f${files.length + 1}-${sha256.slice(0, 6)}`;
      edit(`Bring in ${name}`, (draft) => {
        draft.files.push({ id: fresh, name, sha256 });
      });
      onChange(fresh);
    } catch (cause) {
      setProblem(cause instanceof Error ? cause.message : "The file could not be taken in.");
    } finally {
      setBusy(false);
    }
  }

  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.8125rem] text-soft">
        {field.label}
      </label>
      <input
        id={id}
        type="file"
        accept={field.accept}
        disabled={busy}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void take(file);
        }}
        className="block w-full rounded border border-line bg-sheet text-[0.8125rem] file:mr-2 file:h-8 file:border-0 file:border-r file:border-line file:bg-well file:px-2 file:text-ink"
      />
      {busy ? <p className="mt-1 text-[0.8125rem] text-soft">Taking the file in…</p> : null}
      {problem ? (
        <p role="alert" className="mt-1 text-[0.8125rem] text-bad">
          {problem}
        </p>
      ) : null}
      {files.length > 0 ? (
        <fieldset className="mt-2">
          <legend className="text-[0.8125rem] text-soft">Files of this job</legend>
          {files.map((file) => (
            <label key={file.id} className="flex items-center gap-2 py-0.5">
              <input
                type="radio"
                name={id}
                checked={value === file.id}
                onChange={() => onChange(file.id)}
                className="accent-(--ink)"
              />
              <span className="truncate">{file.name}</span>
            </label>
          ))}
        </fieldset>
      ) : null}
    </div>
  );
}

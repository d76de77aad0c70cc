"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useId, useRef, useState } from "react";
import { type JobSummary, parseJob } from "@/core/job";
import { Button, Choice } from "../controls/controls";
import { useSettings } from "../settings/settings";
import { api } from "../state/api";
import { JobPicture } from "./job-picture";
import { openArchive } from "./open-archive";

/** All jobs, the latest first, and the ways to begin one. */
export function JobsPage({ jobs }: { jobs: JobSummary[] }) {
  return (
    <div className="mx-auto min-h-dvh max-w-5xl px-8 py-8">
      <header className="mb-6 flex items-baseline gap-3 border-b-[3px] border-signal pb-2">
        <h1 className="text-[26px] font-semibold">Bold Seam</h1>
        <p className="text-soft">Divide, trim and combine solids with sheets, and see every piece before it is cut.</p>
      </header>
      <div className="grid grid-cols-[minmax(0,1fr)_280px] gap-8">
        <main>
          <h2 className="mb-2 text-[1.0625rem] font-semibold">Jobs</h2>
          {jobs.length === 0 ? (
            <p className="rounded border border-dashed border-line p-6 text-soft">
              There is no job yet. Begin one on the right.
            </p>
          ) : (
            <ul className="divide-y divide-line rounded border border-line bg-sheet">
              {jobs.map((job) => (
                <JobRow key={job.id} job={job} />
              ))}
            </ul>
          )}
        </main>
        <aside>
          <NewJob />
        </aside>
      </div>
    </div>
  );
}

function JobRow({ job }: { job: JobSummary }) {
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  const steps = job.parts.reduce((sum, part) => sum + part.steps, 0);
  return (
    <li className="flex items-center gap-3 px-4 py-3">
      {job.fault ? null : <JobPicture id={job.id} changed={job.updatedAt} />}
      <div className="min-w-0 grow">
        {job.fault ? (
          <p className="truncate text-[1.0625rem] font-medium">{job.name}</p>
        ) : (
          <Link
            href={`/jobs/${job.id}`}
            title={job.name}
            className="block truncate text-[1.0625rem] font-medium underline-offset-2 hover:underline"
          >
            {job.name}
          </Link>
        )}
        {job.fault ? (
          <p role="alert" className="text-[0.8125rem] text-bad">
            {job.fault} Restore it from a backup; the other jobs are not touched.
          </p>
        ) : null}
        <p className="flex text-[0.8125rem] text-soft">
          <span className="truncate">{job.parts.map((part) => part.name).join(", ")}</span>
          <span className="shrink-0 whitespace-pre">
            {" · "}
            <span className="num">{steps}</span> steps · changed{" "}
            <time dateTime={job.updatedAt}>{day(job.updatedAt)}</time>
          </span>
        </p>
      </div>
      {asking ? (
        <>
          <Button
            small
            onClick={() =>
              void api.remove(job.id).then(() => {
                setAsking(false);
                router.refresh();
              })
            }
          >
            Delete for good
          </Button>
          <Button small tone="quiet" onClick={() => setAsking(false)}>
            Keep it
          </Button>
        </>
      ) : (
        <Button small tone="quiet" aria-label={`Delete ${job.name}`} onClick={() => setAsking(true)}>
          Delete
        </Button>
      )}
    </li>
  );
}

/** Written the same on the server and in the browser, whatever their settings: 2026-11-24, 04:20 UTC. */
function day(iso: string): string {
  return `${iso.slice(0, 10)}, ${iso.slice(11, 16)} UTC`;
}

function NewJob() {
  const router = useRouter();
  const id = useId();
  const chooser = useRef<HTMLInputElement>(null);
  const [name, setName] = useState("");
  const usual = useSettings((state) => state.units);
  const [units, setUnits] = useState<"mm" | "inch" | null>(null);
  const shown = units ?? usual;
  const [problem, setProblem] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  /** One job file is opened; a file of many is brought in, and the list shows them. */
  async function open(file: File): Promise<void> {
    const bytes = new Uint8Array(await file.arrayBuffer());
    const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b;
    if (!isZip) return begin(async () => api.create({ document: parseJob(new TextDecoder().decode(bytes)) }));
    setBusy(true);
    setProblem(null);
    try {
      const { ids, faults } = await openArchive(bytes);
      router.refresh();
      setTold(`${ids.length} ${ids.length === 1 ? "job was" : "jobs were"} brought in.`);
      if (faults.length > 0) setProblem(`Not brought in: ${faults.join(" ")}`);
    } catch (cause) {
      setProblem(cause instanceof Error ? cause.message : "The file could not be opened.");
    }
    setBusy(false);
  }

  async function begin(make: () => Promise<{ id: string }>): Promise<void> {
    setBusy(true);
    setProblem(null);
    try {
      router.push(`/jobs/${(await make()).id}`);
    } catch (cause) {
      setProblem(cause instanceof Error ? cause.message : "The job could not be made.");
      setBusy(false);
    }
  }

  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void begin(() => api.create({ name: name.trim() || "New job", units: shown }));
      }}
    >
      <h2 className="text-[1.0625rem] font-semibold">Begin a job</h2>
      <div>
        <label htmlFor={id} className="mb-1 block text-[0.8125rem] text-soft">
          Name
        </label>
        <input
          id={id}
          value={name}
          maxLength={120}
          placeholder="New job"
          onChange={(event) => setName(event.target.value)}
          className="h-8 w-full rounded border border-line bg-sheet px-2"
        />
      </div>
      <Choice<"mm" | "inch">
        label="Units shown"
        value={shown}
        options={[
          { value: "mm", label: "Millimetres" },
          { value: "inch", label: "Inches" },
        ]}
        onChange={setUnits}
      />
      <Button type="submit" tone="main" disabled={busy}>
        Begin
      </Button>
      <div className="border-t border-line pt-3">
        <Button disabled={busy} onClick={() => chooser.current?.click()}>
          Open a file of jobs…
        </Button>
        <input
          ref={chooser}
          type="file"
          accept=".json,.zip,application/json,application/zip"
          aria-label="Job file"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = "";
            if (file) void open(file);
          }}
        />
      </div>
      <a
        href="/api/archive"
        download
        className="self-start text-[0.8125rem] text-soft underline underline-offset-2 hover:text-ink"
      >
        Save all jobs as one file
      </a>
      {told ? (
        <p role="status" className="text-[0.8125rem] text-soft">
          {told}
        </p>
      ) : null}
      {problem ? (
        <p role="alert" className="rounded bg-bad-wash px-2 py-1 text-[0.8125rem] text-bad">
          {problem}
        </p>
      ) : null}
    </form>
  );
}

"use client";
import { Download, Plus, Trash2, Upload, X } from "lucide-react";
import { useRef, useState } from "react";
import { SeamError } from "@/core/errors";
import { readParameters, writeParameters } from "@/core/exchange/csv";
import { inWords } from "@/core/issues";
import {
  addParameter,
  freshParameterName,
  type Job,
  mergeParameters,
  type Owner,
  parametersOf,
  parameterText,
  removeParameter,
  renameParameter,
  scopeOf,
  setParameter,
  type Use,
  usesOf,
} from "@/core/job";
import {
  FUNCTIONS,
  PARAMETER_UNITS,
  type Parameter,
  type ParameterUnit,
  parameterSchema,
  UNIT_SIZE,
} from "@/core/params";
import { Button, IconButton } from "../controls/controls";
import { download } from "../controls/download";
import { useJob, usePart, useScope, useWorkspace } from "../state/context";
import { stepTitle } from "../state/step-title";
import { EditCell } from "./edit-cell";

/** The named values of the shown part and of the whole job, with what uses each. */
export function ParameterTable() {
  const set = useWorkspace((state) => state.set);
  const part = usePart();
  return (
    <section
      aria-label="Parameters"
      className="flex max-h-[46vh] min-h-[200px] flex-col border-t-2 border-ink bg-sheet"
    >
      <div className="flex items-center gap-3 border-b border-line px-3 py-1.5">
        <h2 className="font-semibold">Parameters</h2>
        <p className="truncate text-[0.8125rem] text-soft">
          Any number can be a formula over these, as in <span className="num">wall / 2 + 1/8 in</span>
        </p>
        <div className="grow" />
        <FunctionList />
        <IconButton label="Close the parameters" className="size-7!" onClick={() => set({ parametersOpen: false })}>
          <X size={16} aria-hidden />
        </IconButton>
      </div>
      <div className="min-h-0 relative overflow-auto px-3 pb-3">
        <Group owner={{ part: part.id }} title={`Of ${part.name}`} />
        <Group owner="job" title="Of the whole job" />
      </div>
    </section>
  );
}

function FunctionList() {
  const [open, setOpen] = useState(false);
  return (
    <div className="relative">
      <Button
        small
        tone="quiet"
        className="shrink-0 whitespace-nowrap"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        What formulas know
      </Button>
      {open ? (
        <div className="absolute right-0 z-30 mt-1 max-h-64 w-[430px] overflow-auto rounded border border-line bg-sheet p-3 shadow-lg">
          <p className="text-[0.8125rem] text-soft">
            + − * / ^ and brackets; mm, cm, m, in, ft, thou, deg, rad; 3 1/8 in; pi; comparisons and, or, not inside if.
          </p>
          <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
            {Object.entries(FUNCTIONS).map(([name, { line, example, gives }]) => (
              <div key={name} className="contents">
                <dt className="num">{name}</dt>
                <dd className="text-[0.8125rem]">
                  {line}: <span className="num">{example}</span> is <span className="num">{gives}</span>
                </dd>
              </div>
            ))}
          </dl>
        </div>
      ) : null}
    </div>
  );
}

function Group({ owner, title }: { owner: Owner; title: string }) {
  const job = useJob((state) => state.job);
  const edit = useJob((state) => state.edit);
  const file = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const scope = useScope();
  const list = parametersOf(job, owner);
  const attempt = (label: string, change: (draft: Job) => void): boolean => {
    const problem = sentenceOf(() => edit(label, change));
    setTrouble(problem);
    return problem === null;
  };
  async function takeIn(chosen: File | undefined): Promise<void> {
    if (!chosen) return;
    const text = await chosen.text();
    attempt(`Take in ${chosen.name}`, (draft) => mergeParameters(draft, owner, readParameters(text)));
  }
  return (
    <div className="mt-2">
      <div className="flex items-center gap-2">
        <h3 className="min-w-0 truncate font-medium" title={title}>
          {title}
        </h3>
        <span className="num text-[0.8125rem] text-soft">{list.length}</span>
        <div className="grow" />
        <input
          ref={file}
          type="file"
          accept=".csv,text/csv"
          aria-label={`CSV file for the parameters ${title.toLowerCase()}`}
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            void takeIn(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
        <Button small tone="quiet" className="shrink-0 whitespace-nowrap" onClick={() => file.current?.click()}>
          <Upload size={14} aria-hidden /> Take in CSV
        </Button>
        <Button
          small
          className="shrink-0 whitespace-nowrap"
          tone="quiet"
          disabled={list.length === 0}
          onClick={() =>
            download(
              new TextEncoder().encode(
                writeParameters(list, (parameter) => {
                  const outcome = scope.outcome(parameter.name, owner === "job" ? 0 : 1);
                  return outcome?.ok ? Number((outcome.value.value / UNIT_SIZE[parameter.unit]).toPrecision(12)) : null;
                }),
              ),
              "parameters.csv",
              "text/csv",
            )
          }
        >
          <Download size={14} aria-hidden /> Write CSV
        </Button>
        <Button
          small
          className="shrink-0 whitespace-nowrap"
          onClick={() =>
            attempt("Add a parameter", (draft) =>
              addParameter(draft, owner, {
                name: freshParameterName([...draft.parameters, ...draft.parts.flatMap((part) => part.parameters)]),
                unit: draft.units === "inch" ? "in" : "mm",
                formula: 10,
                note: "",
              }),
            )
          }
        >
          <Plus size={14} aria-hidden /> Add
        </Button>
      </div>
      {trouble ? (
        <p role="alert" className="mt-1 text-[0.8125rem] text-bad">
          {trouble}
        </p>
      ) : null}
      {list.length === 0 ? (
        <p className="py-2 text-[0.8125rem] text-soft">None yet.</p>
      ) : (
        <table className="mt-1 w-full table-fixed border-collapse">
          <thead>
            <tr className="border-b border-line text-left text-[0.8125rem] text-soft">
              <th className="w-[17%] py-1 font-normal">Name</th>
              <th className="w-[24%] font-normal">Formula</th>
              <th className="w-[9%] font-normal">Unit</th>
              <th className="w-[12%] font-normal">Value</th>
              <th className="w-[18%] font-normal">Used by</th>
              <th className="font-normal">Note</th>
              <th className="w-8" />
            </tr>
          </thead>
          <tbody>
            {list.map((parameter) => (
              <Row key={parameter.name} owner={owner} parameter={parameter} attempt={attempt} />
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

const UNIT_WORDS: Record<ParameterUnit, string> = { mm: "mm", in: "in", deg: "deg", "": "number" };

function Row({
  owner,
  parameter,
  attempt,
}: {
  owner: Owner;
  parameter: Parameter;
  attempt(label: string, change: (draft: Job) => void): boolean;
}) {
  const job = useJob((state) => state.job);
  const edit = useJob((state) => state.edit);
  const part = usePart();
  const scope = useScope();
  const { name, unit, formula, note } = parameter;
  const { text, problem } = parameterText(scope, parameter, owner);
  const uses = usesOf(job, owner, name);

  /** What the job would say of a change; it is made only when this parameter still has a value. */
  const tryValues = (values: Partial<Parameter>): string | null => {
    const wanted = { ...parameter, ...values };
    const checked = parameterSchema.safeParse(wanted);
    if (!checked.success) return `This ${inWords(checked.error.issues[0]!, wanted)}.`;
    const changed = (list: Parameter[]) => list.map((other) => (other.name === name ? checked.data : other));
    const trial =
      owner === "job"
        ? scopeOf({ parameters: changed(job.parameters) }, part)
        : scopeOf(job, { ...part, parameters: changed(part.parameters) });
    const outcome = trial.outcome(name, owner === "job" ? 0 : 1);
    if (outcome && !outcome.ok) return outcome.message;
    edit(`Change ${name}`, (draft) => setParameter(draft, owner, name, values));
    return null;
  };
  return (
    <tr className="border-b border-line align-top">
      <td className="py-0.5 pr-1">
        <EditCell
          label={`Name of ${name}`}
          value={name}
          onCommit={(next) => {
            const checked = parameterSchema.shape.name.safeParse(next);
            if (!checked.success) return `The name ${inWords(checked.error.issues[0]!, next)}.`;
            return sentenceOf(() => edit(`Call ${name} ${next}`, (draft) => renameParameter(draft, owner, name, next)));
          }}
        />
      </td>
      <td className="py-0.5 pr-1">
        <EditCell
          mono
          label={`Formula of ${name}`}
          value={String(formula)}
          onCommit={(next) => {
            const number = Number(next);
            return tryValues({ formula: next !== "" && Number.isFinite(number) ? number : next });
          }}
          standing={problem}
        />
      </td>
      <td className="py-0.5 pr-1">
        <select
          aria-label={`Unit of ${name}`}
          value={unit}
          onChange={(event) => {
            const next = event.target.value as ParameterUnit;
            attempt(`Change the unit of ${name}`, (draft) => setParameter(draft, owner, name, { unit: next }));
          }}
          className="h-7 w-full rounded border border-transparent bg-transparent hover:border-line"
        >
          {PARAMETER_UNITS.map((option) => (
            <option key={option} value={option}>
              {UNIT_WORDS[option]}
            </option>
          ))}
        </select>
      </td>
      <td className="py-1.5 pr-2">
        <span className="num">{problem ? "—" : text}</span>
      </td>
      <td className="py-1.5 pr-2 text-[0.8125rem] text-soft">
        <UseList uses={uses} job={job} />
      </td>
      <td className="py-0.5 pr-1">
        <EditCell
          label={`Note on ${name}`}
          value={note}
          onCommit={(next) => {
            edit(`Note on ${name}`, (draft) => setParameter(draft, owner, name, { note: next.slice(0, 500) }));
            return null;
          }}
        />
      </td>
      <td>
        <IconButton
          label={uses.length > 0 ? `Take out ${name}: its value stays where it is used` : `Take out ${name}`}
          className="size-7!"
          onClick={() => attempt(`Take out ${name}`, (draft) => removeParameter(draft, owner, name))}
        >
          <Trash2 size={14} aria-hidden />
        </IconButton>
      </td>
    </tr>
  );
}

function UseList({ uses, job }: { uses: Use[]; job: Job }) {
  if (uses.length === 0) return <span>nothing</span>;
  const words = uses.map((use) => useWords(use, job));
  return (
    <span title={words.join("\n")} className="line-clamp-2">
      {words.join("; ")}
    </span>
  );
}

function useWords(use: Use, job: Job): string {
  if (use.kind === "parameter") return use.name;
  if (use.kind === "fit") return "a fit that is wanted";
  if (use.kind === "place") return `where “${job.parts.find(({ id }) => id === use.part)?.name}” stands`;
  const part = job.parts.find((candidate) => candidate.id === use.part)!;
  const step = part.steps.find((candidate) => candidate.id === use.step)!;
  return `${stepTitle(step)}, ${use.label}`;
}

/** The sentence of an error that an action raises, or null when there is none. */
function sentenceOf(action: () => unknown): string | null {
  try {
    action();
    return null;
  } catch (cause) {
    if (cause instanceof SeamError) return cause.message;
    throw cause;
  }
}

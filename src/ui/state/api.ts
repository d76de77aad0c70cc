import type { Patch } from "immer";
import type { Job, JobState, Written } from "@/core/job";

/** The server refused. `status` 0: it could not be reached. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly detail?: unknown,
  ) {
    super(message);
  }
}

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch {
    throw new ApiProblem(0, "offline", "The server cannot be reached.");
  }
  if (response.status === 204) return undefined as T;
  const body = await response.json().catch(() => null);
  if (!response.ok)
    throw new ApiProblem(
      response.status,
      body?.code ?? "server",
      body?.message ?? "The server could not do that.",
      body?.detail,
    );
  return body as T;
}

const post = <T>(path: string, body: unknown) =>
  call<T>(path, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) });

export const api = {
  job: (id: string) => call<JobState>(`/api/jobs/${id}`),
  create: (wanted: { name: string; units: Job["units"] } | { document: unknown }) =>
    post<JobState>("/api/jobs", wanted),
  remove: (id: string) => call<void>(`/api/jobs/${id}`, { method: "DELETE" }),
  edit: (id: string, base: number, edit: { label: string; token: string; patches: Patch[] }) =>
    post<Written>(`/api/jobs/${id}/changes`, { base, ...edit }),
  undo: (id: string, base: number) => post<Written>(`/api/jobs/${id}/undo`, { base }),
  redo: (id: string, base: number) => post<Written>(`/api/jobs/${id}/redo`, { base }),
  keepFile: (file: File) =>
    call<{ sha256: string; name: string; size: number }>(`/api/files?name=${encodeURIComponent(file.name)}`, {
      method: "POST",
      body: file,
    }),
  /** How the first part of a job was last seen, packed. */
  async view(id: string): Promise<Uint8Array | null> {
    const response = await fetch(`/api/jobs/${id}/view`).catch(() => null);
    return response?.status === 200 ? new Uint8Array(await response.arrayBuffer()) : null;
  },
  async stored(key: string): Promise<Uint8Array | null> {
    const response = await fetch(`/api/geometry/${key}`).catch(() => null);
    return response?.status === 200 ? new Uint8Array(await response.arrayBuffer()) : null;
  },
  async store(key: string, bytes: Uint8Array): Promise<void> {
    await fetch(`/api/geometry/${key}`, { method: "PUT", body: bytes as BodyInit }).catch(() => {});
  },
};

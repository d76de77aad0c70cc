import type { Patch } from "immer";
import type { Job } from "./document";

/** A job as the server hands it out: what both sides of the wire mean by it. */
export interface JobState {
  id: string;
  revision: number;
  document: Job;
  /** What undo and redo would do now; null when there is nothing. */
  undo: string | null;
  redo: string | null;
}

/** What a write is answered with: where the job is now, and what happened to the document beyond what was sent. */
export interface Written {
  id: string;
  revision: number;
  undo: string | null;
  redo: string | null;
  /** What was done to the document, where the sender does not know it: an undo, a redo. */
  patches?: Patch[];
  /** The whole document, where checking changed more in it than the patches say. */
  document?: Job;
}

/** A job in the list of jobs. */
export interface JobSummary {
  id: string;
  name: string;
  revision: number;
  parts: { name: string; steps: number }[];
  units: Job["units"];
  /** ISO 8601, UTC. */
  createdAt: string;
  updatedAt: string;
  /** Why it cannot be opened, where it cannot: its other jobs are no worse for it. */
  fault?: string;
}

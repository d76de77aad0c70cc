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
}

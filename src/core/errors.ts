/** What went wrong, for a person and for the interface: one sentence, where, and a repair where there is one. */
export interface Trouble {
  code: string;
  /** One sentence: what is wrong and what to do. */
  message: string;
  step?: string;
  /** The field of the step that it is about, by path, such as `size.0`. */
  field?: string;
  /** Which entry of that field, where it is a list; from 0. Given only while it has no effect. */
  entry?: number;
  /** Bodies concerned, by id. */
  bodies?: string[];
  /** A place to light up, mm. */
  at?: [number, number, number];
  /** Further places that it is about. */
  places?: [number, number, number][];
  /** Lines that it is about, each through its places, mm: as where a skin is open. */
  paths?: [number, number, number][][];
  /** Pieces of the step to light up, by their keys. */
  pieces?: string[];
  /** Faces to light up, by their names. */
  faces?: { body: string; face: string }[];
  repair?: Repair;
  /** Other ways to mend it, where there are several. */
  others?: Repair[];
}

/** A change that would mend it: set fields of a step. */
export interface Repair extends StepChange {
  label: string;
  /** Changes of other steps that belong to it: done together or not at all. */
  with?: StepChange[];
  /** A step that is done before the one that is changed, which may then be left as it is. */
  insert?: { type: string } & Record<string, unknown>;
}

/** Fields of a step and what they are set to; an `add` is an amount, mm. */
export interface StepChange {
  step: string;
  set: Record<string, unknown>;
  /** What is set where the step has no such field: the first of these that it has. Never of a repair that is offered. */
  or?: Record<string, unknown>[];
}

/** The project's own error: everything that a user can cause leaves the core as one of these. */
export class SeamError extends Error {
  constructor(readonly trouble: Trouble) {
    super(trouble.message);
    this.name = "SeamError";
  }
}

export function fail(code: string, message: string, more: Omit<Trouble, "code" | "message"> = {}): never {
  throw new SeamError({ code, message, ...more });
}

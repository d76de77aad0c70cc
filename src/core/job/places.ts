import { isIdentity, PLAIN_PLACE, type Place, type Transform, valuesOf } from "../place";
import { addPart, freshStepId } from "./changes";
import type { Job, Part } from "./document";
import { newStep } from "./repair";

const partOf = (job: Job, id: string): Part | undefined => job.parts.find((part) => part.id === id);

/** An id that no place of the part has, and that nothing names which meant one that is gone. */
function freshPlaceId(job: Job, part: Part): string {
  const named = job.parts.flatMap(({ steps }) =>
    steps.flatMap(({ part: of, at }) => (of === part.id ? [String(at)] : [])),
  );
  const fits = job.fits.flatMap(({ one, other }) =>
    [one, other].flatMap((end) => (end.part === part.id ? [end.at] : [])),
  );
  const numbers = [...part.places.map(({ id }) => id), ...named, ...fits].map((id) =>
    Number(/^at(\d+)$/.exec(id)?.[1] ?? 0),
  );
  return `at${1 + Math.max(0, ...numbers)}`;
}

/** The edits of where parts stand. Each edits the draft in place. */
export const placeEdits = {
  /** Changes a place of a part: its own with an empty id. */
  setPlace(job: Job, id: string, at: string, values: Partial<Omit<Place, "id">>): void {
    const part = partOf(job, id);
    if (!part) return;
    if (part.places.length === 0) part.places.push({ id: freshPlaceId(job, part), ...PLAIN_PLACE });
    const place = at === "" ? part.places[0]! : part.places.find((one) => one.id === at);
    if (!place) return;
    Object.assign(place, values);
    if (values.name?.trim() === "") delete place.name;
  },
  /** Stands a part, or a copy of it, where a transform puts it, with what its place says of a mirror kept or made. */
  putAt(job: Job, id: string, at: string, transform: Transform): void {
    const { by, ...turn } = valuesOf(transform);
    placeEdits.setPlace(job, id, at, {
      by: [...by],
      ...(isIdentity({ ...transform, by: [0, 0, 0] })
        ? { turn: 0, axis: [0, 0, 1] as Place["axis"], mirror: "none" as const }
        : { ...turn, axis: [...turn.axis] as Place["axis"] }),
    });
  },
  /** Stands a part in the job once more: beside itself, as it is or as its other hand. @returns the place's id */
  addCopy(job: Job, id: string, values: Partial<Omit<Place, "id">>): string {
    const part = partOf(job, id)!;
    if (part.places.length === 0) part.places.push({ id: freshPlaceId(job, part), ...PLAIN_PLACE });
    const place: Place = { ...structuredClone(PLAIN_PLACE), ...values, id: freshPlaceId(job, part) };
    part.places.push(place);
    return place.id;
  },
  removeCopy(job: Job, id: string, at: string): void {
    const part = partOf(job, id);
    if (part && part.places[0]?.id !== at) part.places = part.places.filter((place) => place.id !== at);
  },
  /**
   * Makes a copy a part of its own, which no longer follows: with the steps that there are now, mirrored at the end where the copy is. What named
   * the copy names the part from then on. @param bodies the items that the part makes now, by id. @returns the new part's id
   */
  makeOwn(job: Job, id: string, at: string, name: string, bodies: readonly string[]): string {
    const from = partOf(job, id)!;
    const place = from.places.find((one) => one.id === at)!;
    const own = addPart(job, name);
    const part = partOf(job, own)!;
    const {
      id: _id,
      name: _name,
      places: _places,
      views: _views,
      ...rest
    } = structuredClone(JSON.parse(JSON.stringify(from))) as Part;
    const { name: _called, ...stands } = JSON.parse(JSON.stringify(place)) as Place;
    Object.assign(part, rest, { places: [{ ...stands, mirror: "none" }] });
    if (place.mirror !== "none" && bodies.length > 0) {
      const about = { x: "yz", y: "zx", z: "xy" }[place.mirror];
      part.steps.push(newStep(freshStepId(part, job), "mirror", { bodies: [...bodies], about, keep: false }));
      part.hold = null;
    }
    placeEdits.removeCopy(job, id, at);
    for (const fit of job.fits)
      for (const end of [fit.one, fit.other])
        if (end.part === id && end.at === at) Object.assign(end, { part: own, at: "" });
    for (const { steps } of job.parts)
      for (const step of steps)
        if (step.part === id && step.at === at) Object.assign(step, { part: own, at: "", taken: null });
    return own;
  },
};

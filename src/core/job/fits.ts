import type { WantedFit } from "../fit/audit/wanted";
import type { Job } from "./document";

type Ends = Pick<WantedFit, "one" | "other">;
type End = WantedFit["one"];

const isEnd = (one: End, other: End) => one.part === other.part && one.body === other.body && one.at === other.at;
const endOf = ({ part, body, at }: End): End => ({ part, body, at });

/**
 * Says how two bodies are to lie to each other, in place of what was said before of them; with null nothing any more. @param ends the bodies, and
 * the place in the list of what was said of them, should they have been called otherwise then
 */
export function wantFit(
  job: Job,
  { one, other, fit }: Ends & { fit: number | null },
  values: Partial<WantedFit> | null,
): void {
  const ends = { one: endOf(one), other: endOf(other) };
  const said = job.fits.findIndex(
    (known, place) =>
      place === fit ||
      (isEnd(known.one, ends.one) && isEnd(known.other, ends.other)) ||
      (isEnd(known.one, ends.other) && isEnd(known.other, ends.one)),
  );
  if (values === null) {
    if (said >= 0) job.fits.splice(said, 1);
    return;
  }
  const next = { want: "gap" as const, least: 0, most: 0, ...job.fits[said], ...values, ...ends };
  if (said >= 0) job.fits[said] = next;
  else job.fits.push(next);
}

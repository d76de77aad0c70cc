"use client";
import { checkType } from "@/core/check/registry";
import { counted } from "@/core/words";
import { Mark } from "../marks/marks";
import { opened } from "../state/checking";
import { useJob, useWorkspace } from "../state/context";
import { LEAVE_WHOLE } from "../state/others";
import { useFits } from "../state/use-fits";

/** Whether all bodies lie as they are wanted to, for the whole job: a press opens the audit. */
export function FitMark() {
  useFits();
  const count = useJob((state) => state.job.fits.length);
  const parts = useJob((state) => state.job.parts.length);
  const fits = useWorkspace((state) => state.fits);
  const isOpen = useWorkspace((state) => state.editing !== null);
  const set = useWorkspace((state) => state.set);
  if (count === 0) return null;
  const broken = (fits ?? []).filter(({ holds }) => holds !== true);
  const isKnown = fits !== null && fits.length === count;
  const words = !isKnown
    ? `${counted(count, "fit")}${isOpen ? " wanted" : ": not known"}`
    : broken.length > 0
      ? `${counted(broken.length, "fit")} of ${count} ${broken.length === 1 ? "does" : "do"} not hold`
      : `${counted(count, "fit")} ${count === 1 ? "holds" : "hold"}`;
  const open = () =>
    set({
      ...LEAVE_WHOLE,
      ...(parts > 1 ? { around: true } : {}),
      checking: { ...opened(checkType("fit")!), values: { of: parts > 1 ? "job" : "part", within: 5 } },
      selected: null,
      measuring: null,
    });
  return (
    <>
      <span role="status" className="sr-only">
        {words}
      </span>
      <button
        type="button"
        aria-label={words}
        disabled={isOpen}
        title={broken.map(({ names, words: why }) => `${names.join(" – ")}: ${why}`).join("\n") || words}
        onClick={open}
        className={`inline-flex h-8 shrink-0 items-center gap-1.5 rounded border px-2 text-[0.8125rem] disabled:opacity-60 ${broken.length > 0 && isKnown ? "border-bad text-bad" : "border-line"}`}
      >
        <Mark name={!isKnown ? "waiting" : broken.length > 0 ? "warned" : "good"} />
        {words}
      </button>
    </>
  );
}

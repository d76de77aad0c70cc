"use client";
import dynamic from "next/dynamic";
import { useEffect, useState } from "react";
import type { GapCourse, GapPlace } from "@/core/check";
import type { LengthUnit } from "@/core/units";
import type { Target } from "@/engine/contract";
import { Cancelled } from "@/engine/host";
import { Button, Range } from "../controls/controls";
import { csvFile } from "../controls/csv-file";
import { download } from "../controls/download";
import { formatAngle, formatLength } from "../settings/format";
import { useJob, useStores, useWorkspace } from "../state/context";
import { gapTable } from "./gap-table";

const GapChart = dynamic(() => import("./gap-chart"), { ssr: false, loading: () => <div className="h-32" /> });

/** How the gap between the two things that are measured runs: asked for, since it takes hundreds of measures. */
export function GapRun({ targets }: { targets: readonly Target[] }) {
  const { engines, job, workspace } = useStores();
  const evaluation = useWorkspace((state) => state.evaluation);
  const [asked, setAsked] = useState<AbortController | null>(null);
  const [course, setCourse] = useState<GapCourse | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [first, second] = targets;
  // What was measured before an edit is not what is there now.
  useEffect(() => () => drop(), [evaluation]);
  const drop = () => {
    setCourse(null);
    setTrouble(null);
    show(null);
  };
  const show = (place: GapPlace | null) => {
    const { measuring, set } = workspace.getState();
    if (measuring) set({ measuring: { ...measuring, place } });
  };
  if (!first || !second) return null;
  const ask = () => {
    const stopping = new AbortController();
    setAsked(stopping);
    setTrouble(null);
    const { part, measuring, evaluation: built } = workspace.getState();
    // What is picked or built by then may be something else.
    const isMeant = () => {
      const now = workspace.getState();
      return now.measuring?.picked === measuring?.picked && now.evaluation === built;
    };
    engines()
      .ask("course", { job: job.store.getState().job, part, first, second }, { signal: stopping.signal })
      .then((found) => {
        if (!isMeant()) return;
        setCourse(found);
        if (found) show(found.least);
        else
          setTrouble("There is nothing to run along: one of the two has to be an edge, a curve, a cylinder or a cone.");
      })
      .catch((cause: Error) => setTrouble(cause instanceof Cancelled ? "Stopped." : cause.message))
      .finally(() => setAsked(null));
  };
  return (
    <div className="mt-1.5 border-t border-line pt-1.5">
      {course ? (
        <Run course={course} onShow={show} onClose={drop} />
      ) : asked ? (
        <p className="flex items-center gap-2 text-soft">
          Measuring the gap…
          <Button small onClick={() => asked.abort()}>
            Stop
          </Button>
        </p>
      ) : (
        <Button small onClick={ask}>
          Chart the gap
        </Button>
      )}
      {trouble ? (
        <p role="alert" className="mt-1 text-bad">
          {trouble}
        </p>
      ) : null}
    </div>
  );
}

function Run({ course, onShow, onClose }: { course: GapCourse; onShow(place: GapPlace): void; onClose(): void }) {
  const unit = useJob((state) => state.job.units);
  const { places, least, most, by, of } = course;
  const [chosen, setChosen] = useState(places.indexOf(least));
  const choose = (index: number) => {
    setChosen(index);
    onShow(places[index]!);
  };
  const place = places[chosen] ?? least;
  const save = () => {
    const { fields, data } = gapTable(course);
    download(csvFile(fields, data), "gap.csv", "text/csv");
  };
  return (
    <section aria-label="Gap">
      <div className="flex items-center justify-between">
        <h3 className="font-medium">
          Gap {by === "length" ? "along" : "round the axis of"} {of === "first" ? "A" : "B"}
        </h3>
        <span className="flex gap-1">
          <Button small tone="quiet" onClick={save} aria-label="The gap as a CSV file">
            CSV
          </Button>
          <Button small tone="quiet" onClick={onClose}>
            Close the chart
          </Button>
        </span>
      </div>
      <GapChart course={course} unit={unit} chosen={chosen} onChoose={choose} />
      <dl className="num mt-1 grid grid-cols-[auto_1fr_auto] items-center gap-x-2 text-[0.8125rem]">
        {(
          [
            ["Least", least],
            ["Most", most],
          ] as const
        ).map(([word, one]) => (
          <div key={word} className="contents">
            <dt className="text-soft">{word}</dt>
            <dd>{wordsOf(one, by, unit)}</dd>
            <Button small tone="quiet" onClick={() => choose(places.indexOf(one))}>
              Show
            </Button>
          </div>
        ))}
      </dl>
      <Range
        label="Place along the gap"
        value={places.length > 1 ? chosen / (places.length - 1) : 0}
        onChange={(share) => choose(Math.round(share * (places.length - 1)))}
        className="mt-1 w-full"
      />
      <p aria-live="polite" className="num text-[0.8125rem]">
        Here {wordsOf(place, by, unit)}
      </p>
      <p className="text-[0.8125rem] text-soft">
        Measured in {places.length} places, exactly in each
        {by === "turn" ? ": the least of nine heights at each angle" : ""}; below 0 the one is so far within the other.
      </p>
    </section>
  );
}

function wordsOf({ gap, along }: GapPlace, by: GapCourse["by"], unit: LengthUnit): string {
  return `${formatLength(gap, unit)} at ${by === "length" ? formatLength(along, unit) : formatAngle(along)}`;
}

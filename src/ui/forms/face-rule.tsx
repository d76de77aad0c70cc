"use client";
import { FACE_RULES, type FaceRef, type FaceRule } from "@/core/references";

const WORDS: Record<FaceRule, string> = {
  smooth: "and what runs smoothly on",
  pocket: "and all of its pocket",
  boss: "and all of its boss",
  radius: "and all of its radius",
  facing: "and all that look its way",
};

/** Kinds of faces that have a radius to be alike in. */
const ROUND = ["cylinder", "sphere", "torus"];

/** Whether a rule says anything of a face of a kind. */
const says = (rule: FaceRule, kind: string): boolean =>
  rule === "radius" ? ROUND.includes(kind) : rule !== "facing" || kind === "plane";

/** Which faces a picked one brings along: a rule that is kept, and finds them again after each edit. */
export function FaceRuleChoice({
  face,
  kind,
  count,
  onChange,
}: {
  face: FaceRef;
  kind: string;
  /** How many faces there are with those that the rule brings along; null while that is not known. */
  count: number | null;
  onChange(face: FaceRef): void;
}) {
  const rules = FACE_RULES.filter((rule) => says(rule, kind) || rule === face.with);
  return (
    <div className="mt-0.5 flex items-center gap-2">
      <select
        aria-label="Faces that come with it"
        value={face.with ?? ""}
        onChange={(event) => {
          const { with: _, ...alone } = face;
          onChange(event.target.value === "" ? alone : { ...alone, with: event.target.value as FaceRule });
        }}
        className="h-7 min-w-0 grow rounded border border-line bg-sheet px-1 text-[0.8125rem]"
      >
        <option value="">alone</option>
        {rules.map((rule) => (
          <option key={rule} value={rule}>
            {WORDS[rule]}
          </option>
        ))}
      </select>
      {face.with && count !== null ? (
        <span className="num shrink-0 text-[0.8125rem] text-soft">{count === 1 ? "1 face" : `${count} faces`}</span>
      ) : null}
    </div>
  );
}

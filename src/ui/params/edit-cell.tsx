"use client";
import { useEffect, useId, useState } from "react";

/** A cell of a table that is typed into; what does not fit stays in it, with what is wrong, until it does or Escape. */
export function EditCell({
  label,
  value,
  mono,
  onCommit,
  standing,
}: {
  label: string;
  value: string;
  mono?: boolean;
  /** Takes what was typed; returns what is wrong with it, or null. */
  onCommit(text: string): string | null;
  /** What is wrong with the value as it is. */
  standing?: string | null;
}) {
  const id = useId();
  const [text, setText] = useState(value);
  const [refused, setProblem] = useState<string | null>(null);
  const problem = refused ?? standing;
  useEffect(() => {
    setText(value);
    setProblem(null);
  }, [value]);
  const commit = () => {
    const next = text.trim();
    setProblem(next === value ? null : onCommit(next));
  };
  return (
    <>
      <input
        aria-label={label}
        value={text}
        spellCheck={false}
        autoComplete="off"
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? id : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          if (event.key !== "Escape" || text === value) return;
          event.preventDefault();
          setText(value);
          setProblem(null);
        }}
        className={`h-7 w-full rounded border bg-transparent px-1 hover:border-line focus:border-pick focus:bg-sheet ${problem ? "border-bad" : "border-transparent"} ${mono ? "num" : ""}`}
      />
      {problem ? (
        <p id={id} className="text-[0.8125rem] text-bad">
          {problem}
        </p>
      ) : null}
    </>
  );
}

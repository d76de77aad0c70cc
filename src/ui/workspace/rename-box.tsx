"use client";
import { useEffect, useRef, useState } from "react";

/** A box in the place of a name: Enter keeps what was typed, Escape leaves the name as it was. */
export function RenameBox({
  value,
  placeholder,
  onDone,
}: {
  value: string;
  placeholder: string;
  onDone(name: string | null): void;
}) {
  const [text, setText] = useState(value || placeholder);
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    box.current?.select();
  }, []);
  return (
    <input
      ref={box}
      aria-label="New name"
      value={text}
      maxLength={120}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => onDone(text.trim() === placeholder ? null : text)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") onDone(null);
      }}
      className="h-7 w-full rounded border border-pick bg-sheet px-1.5 outline-none"
    />
  );
}

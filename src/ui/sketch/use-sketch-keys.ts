import { useEffect } from "react";

/** What keys do in an open sketch; null where that cannot be done now, and the key is left to others. */
export interface SketchKeys {
  /** Ends what is half drawn, lays the tool down, lets go of what is picked: one at a time. */
  escape: (() => void) | null;
  finish: (() => void) | null;
  takeOut: (() => void) | null;
  copy: (() => void) | null;
  paste: (() => void) | null;
  /** Takes a number that is begun to be typed: the key goes on to what has the focus then. */
  typeSize: (() => void) | null;
}

/** Listens to keys before all else does, wherever the focus is but in a field. */
export function useSketchKeys(keys: SketchKeys | null): void {
  useEffect(() => {
    if (!keys) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.matches("input, select, textarea")) return;
      if (/^[\d.+-]$/.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey) {
        keys.typeSize?.();
        return;
      }
      const act = meant(event, keys);
      if (!act) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      act();
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  });
}

function meant(event: KeyboardEvent, keys: SketchKeys): (() => void) | null {
  if (event.ctrlKey || event.metaKey) return event.key === "c" ? keys.copy : event.key === "v" ? keys.paste : null;
  switch (event.key) {
    case "Escape":
      return keys.escape;
    case "Enter":
      return keys.finish;
    case "Delete":
    case "Backspace":
      return keys.takeOut;
    default:
      return null;
  }
}

/** A pressed key with what was held down, as it is written on the page: `Ctrl Z`, `Shift F`, `?`. */
export function keyOf(event: {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
}): string | null {
  const { key } = event;
  if (["Control", "Shift", "Alt", "Meta", "AltGraph", "Dead", "Process", "Unidentified"].includes(key)) return null;
  const letter = /^\p{L}$/u.test(key);
  const name = letter ? key.toUpperCase() : key === " " ? "Space" : key;
  return [
    event.ctrlKey || event.metaKey ? "Ctrl" : "",
    event.altKey ? "Alt" : "",
    // Of a sign such as ? the shift is part already.
    event.shiftKey && (letter || key.length > 1) ? "Shift" : "",
    name,
  ]
    .filter(Boolean)
    .join(" ");
}

/** Keys that the page or the browser needs: they are given to nothing else. */
export const TAKEN = new Set([
  "Tab",
  "Shift Tab",
  "Enter",
  "Space",
  "Escape",
  "ArrowLeft",
  "ArrowRight",
  "ArrowUp",
  "ArrowDown",
  "Ctrl C",
  "Ctrl V",
  "Ctrl X",
  "Ctrl A",
  "Ctrl T",
  "Ctrl W",
  "Ctrl N",
  "Ctrl R",
]);

/** Whether keys go into what has the focus, and not to commands. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      target.matches(
        "input:not([type=radio]):not([type=checkbox]):not([type=file]):not([type=range]), textarea, select",
      ) ||
      target.closest("[role=dialog], [role=alertdialog], [role=menu], [role=listbox]") !== null)
  );
}

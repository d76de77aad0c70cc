/**
 * A value without parts: omitted, derived, a number, a string, bits, an enumeration, a pointer (ISO 10303-21, 5.4 and 6.3). Numbers
 * are taken as some programs write them, too: 1e-05, .5.
 */
const PLAIN =
  /\s*(?:[$*]|[-+]?(?:\d+\.?\d*|\.\d+)(?:E[-+]?\d+)?|'(?:[^']|'')*'|"[0-9A-F]*"|\.[A-Z_][A-Z0-9_]*\.|#\d+)\s*/iy;
const OPENING = /\s*(?:[A-Z_!][A-Z0-9_]*\s*)?\(\s*/iy;
const SIMPLE = /\s*[A-Z_!][A-Z0-9_]*\s*\(\s*/iy;

/** Whether the right side of an instance is one record, or several in brackets, written as the exchange structure asks. */
export function isWellFormed(text: string): boolean {
  let at = 0;
  const take = (pattern: RegExp): boolean => {
    pattern.lastIndex = at;
    if (!pattern.test(text)) return false;
    at = pattern.lastIndex;
    return true;
  };
  /** What follows an opening bracket, up to and with its closing one. */
  const list = (): boolean => {
    let depth = 1;
    let wants = text[at] !== ")";
    while (depth > 0) {
      if (wants) {
        if (take(PLAIN)) wants = false;
        else if (take(OPENING)) {
          depth++;
          wants = text[at] !== ")";
        } else return false;
        continue;
      }
      const c = text[at++];
      if (c === ",") wants = true;
      else if (c === ")") depth--;
      else return false;
      while (!wants && /\s/.test(text[at] ?? "")) at++;
    }
    return true;
  };
  const blanks = /\s*/y;
  if (take(SIMPLE)) {
    if (!list()) return false;
  } else {
    if (!take(OPENING)) return false;
    let parts = 0;
    while (take(SIMPLE)) {
      parts++;
      if (!list()) return false;
    }
    if (parts === 0 || text[at++] !== ")") return false;
  }
  take(blanks);
  return at === text.length;
}

"use client";
import { useState } from "react";
import { type Command, commandFor, isNamed, keysFor, NAMED } from "../commands/command";
import { keyOf, TAKEN } from "../commands/keys";
import { Button } from "../controls/controls";
import { useSettings } from "./settings";

/** All keys on one page: what each does, to be changed by pressing another. */
export function KeysPage({ commands }: { commands: Command[] }) {
  const keys = useSettings((state) => state.keys);
  const change = useSettings((state) => state.change);
  const [asking, setAsking] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const listed = [...commands.filter(({ id }) => isNamed(id)), ...commands.filter(({ id }) => id.startsWith("tool:"))];
  const labelOf = (id: string) => listed.find((one) => one.id === id)?.label ?? id;

  function take(id: string, key: string): void {
    setAsking(null);
    if (TAKEN.has(key) || /^\d$/.test(key)) {
      setTold(`${key} is needed by the page itself. “${labelOf(id)}” keeps what it had.`);
      return;
    }
    const other = commandFor(key, keys);
    const next = { ...keys, [id]: key };
    // One key does one thing: what had it goes without.
    if (other && other !== id) next[other] = "";
    change({ keys: next });
    setTold(other && other !== id ? `${key} was taken from “${labelOf(other)}”, which has no key now.` : null);
  }

  return (
    <div>
      <p className="mb-1 text-[0.8125rem] text-soft">
        None is needed. The digits open the stages; arrow keys go among tools; Escape leaves one thing at a time.
      </p>
      <p role="status" className="min-h-5 text-[0.8125rem] text-warn">
        {told}
      </p>
      <table className="w-full border-collapse">
        <thead>
          <tr className="text-left text-[0.75rem] text-soft">
            <th className="py-1 font-normal">Does</th>
            <th className="w-64 font-normal">Key</th>
          </tr>
        </thead>
        <tbody>
          {listed.map(({ id, label }) => {
            const key = keysFor(id, keys);
            return (
              <tr key={id} data-command={id} className="border-t border-line">
                <td className="py-1 pr-3">{label}</td>
                <td>
                  <span className="flex items-center gap-1.5">
                    <button
                      type="button"
                      aria-label={`Change the key of ${label}: ${key || "none"}`}
                      className={`num min-w-20 rounded border px-2 py-0.5 text-left ${asking === id ? "border-pick bg-pick-wash" : "border-line bg-paper hover:border-rule"}`}
                      onClick={() => {
                        setAsking(id);
                        setTold(null);
                      }}
                      onBlur={() => setAsking(null)}
                      onKeyDown={(event) => {
                        if (asking !== id) return;
                        event.preventDefault();
                        event.stopPropagation();
                        const pressed = keyOf(event);
                        if (pressed === "Escape") setAsking(null);
                        else if (pressed !== null) take(id, pressed);
                      }}
                    >
                      {asking === id ? "Press a key" : key || "none"}
                    </button>
                    {key ? (
                      <Button small tone="quiet" onClick={() => change({ keys: { ...keys, [id]: "" } })}>
                        Clear
                      </Button>
                    ) : null}
                    {keys[id] !== undefined ? (
                      <Button
                        small
                        tone="quiet"
                        onClick={() => {
                          const { [id]: _own, ...rest } = keys;
                          const own = isNamed(id) ? NAMED[id].keys : "";
                          const other = own ? commandFor(own, rest) : null;
                          change({ keys: other && other !== id ? { ...rest, [other]: "" } : rest });
                        }}
                      >
                        As it came
                      </Button>
                    ) : null}
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

"use client";
import { Dialog, Tabs } from "radix-ui";
import type { ReactNode } from "react";
import type { Command } from "../commands/command";
import { Choice, Toggle } from "../controls/controls";
import { useWorkspace } from "../state/context";
import { KeysPage } from "./keys-page";
import { useSettings } from "./settings";

/** How this person works in this browser: numbers, look, mouse; and all keys on one page. */
export function SettingsDialog({ commands }: { commands(): Command[] }) {
  const dialog = useWorkspace((state) => state.dialog);
  const set = useWorkspace((state) => state.set);
  const open = dialog === "settings" || dialog === "keys";
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && set({ dialog: null })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[6vh] left-1/2 z-50 flex max-h-[86vh] w-[min(46rem,94vw)] -translate-x-1/2 flex-col rounded border border-rule bg-sheet p-4 shadow-xl"
        >
          <div className="flex items-center justify-between">
            <Dialog.Title className="text-[1.0625rem] font-semibold">Settings</Dialog.Title>
            <Dialog.Close className="rounded px-2 py-1 text-soft hover:bg-well hover:text-ink">Close</Dialog.Close>
          </div>
          <p className="mb-2 text-[0.8125rem] text-soft">Kept in this browser, for all jobs.</p>
          <Tabs.Root
            value={dialog === "keys" ? "keys" : "settings"}
            onValueChange={(next) => set({ dialog: next as "keys" | "settings" })}
            className="flex min-h-0 flex-col"
          >
            <Tabs.List aria-label="Settings" className="mb-3 flex gap-1 border-b border-line">
              {[
                ["settings", "Numbers, look, mouse"],
                ["keys", "Keys"],
              ].map(([value, label]) => (
                <Tabs.Trigger
                  key={value}
                  value={value!}
                  className="-mb-px border-b-2 border-transparent px-3 py-1.5 data-[state=active]:border-ink data-[state=active]:font-medium"
                >
                  {label}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value="settings" className="min-h-0 overflow-auto">
              <Usual />
            </Tabs.Content>
            <Tabs.Content value="keys" className="min-h-0 overflow-auto">
              <KeysPage commands={commands()} />
            </Tabs.Content>
          </Tabs.Root>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Usual() {
  const all = useSettings((state) => state);
  const { change } = all;
  return (
    <div className="grid gap-x-8 gap-y-4 sm:grid-cols-2">
      <Group title="Numbers">
        <Choice
          label="New jobs are shown in"
          value={all.units}
          options={[
            { value: "mm", label: "Millimetres" },
            { value: "inch", label: "Inches" },
          ]}
          onChange={(units) => change({ units })}
        />
        <Choice
          label="Places after the point (inches show one more)"
          value={String(all.decimals)}
          options={["1", "2", "3", "4"].map((value) => ({ value, label: value }))}
          onChange={(decimals) => change({ decimals: Number(decimals) })}
        />
        <Choice
          label="Inches as fractions, where they are one"
          value={String(all.fractions)}
          options={[
            { value: "0", label: "Never" },
            { value: "16", label: "to 1/16" },
            { value: "32", label: "to 1/32" },
            { value: "64", label: "to 1/64" },
          ]}
          onChange={(fractions) => change({ fractions: Number(fractions) as 0 | 16 | 32 | 64 })}
        />
      </Group>
      <Group title="Look">
        <Choice
          label="Theme"
          value={all.theme}
          options={[
            { value: "system", label: "As the system" },
            { value: "light", label: "Paper" },
            { value: "dark", label: "Graphite" },
          ]}
          onChange={(theme) => change({ theme })}
        />
        <Choice
          label="Text"
          value={all.text}
          options={[
            { value: "small", label: "Small" },
            { value: "usual", label: "Usual" },
            { value: "large", label: "Large" },
          ]}
          onChange={(text) => change({ text })}
        />
        <Toggle
          label="View in perspective"
          value={all.perspective}
          onChange={(perspective) => change({ perspective })}
        />
        <Toggle label="Floor with its scale" value={all.floor} onChange={(floor) => change({ floor })} />
      </Group>
      <Group title="Mouse, pen and touch">
        <Choice
          label="Dragging with the main button"
          value={all.drag}
          options={[
            { value: "turn", label: "Turns the view" },
            { value: "shift", label: "Shifts the view" },
          ]}
          onChange={(drag) => change({ drag })}
        />
        <p className="text-[0.8125rem] text-soft">
          Dragging with another button, or with Shift held, {all.drag === "turn" ? "shifts" : "turns"} it. On glass, one
          finger is the main button, and two fingers pinch.
        </p>
        <Choice
          label="Turning the wheel away from you"
          value={all.wheel}
          options={[
            { value: "nearer", label: "Brings the part nearer" },
            { value: "farther", label: "Takes it farther" },
          ]}
          onChange={(wheel) => change({ wheel })}
        />
      </Group>
    </div>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex flex-col gap-3">
      <h3 className="border-b border-line pb-0.5 font-medium">{title}</h3>
      {children}
    </section>
  );
}

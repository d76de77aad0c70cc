"use client";
import { Command as Palette } from "cmdk";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { hasToolMark, ToolMark } from "../marks/tool-marks";
import { settings, useSettings } from "../settings/settings";
import { useWorkspace } from "../state/context";
import { type Command, type CommandGroup, keysFor } from "./command";
import { fitOf } from "./fit";

const GROUPS: CommandGroup[] = ["Tools", "Do", "View", "Steps", "Bodies", "Parts", "Parameters", "Help"];

/** So many of what was used last stand at the top while nothing is typed. */
const RECENT = 6;

/** Everything by typing: what was used last first, each with what it does and its key. */
export function FindDialog({ commands }: { commands(): Command[] }) {
  const open = useWorkspace((state) => state.dialog === "find");
  const set = useWorkspace((state) => state.set);
  return (
    <Dialog.Root open={open} onOpenChange={(next) => set({ dialog: next ? "find" : null })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 z-50 flex max-h-[76vh] w-[min(40rem,92vw)] -translate-x-1/2 flex-col rounded border border-rule bg-sheet shadow-xl"
        >
          <Dialog.Title className="sr-only">Find anything</Dialog.Title>
          {open ? <Found commands={commands()} /> : null}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What is typed against a command's name and line: cmdk sorts by this. */
const fits = (_value: string, typed: string, words?: string[]) => fitOf(typed, words?.[0] ?? "", words?.[1] ?? "");

function Found({ commands }: { commands: Command[] }) {
  const set = useWorkspace((state) => state.set);
  const recent = useSettings((state) => state.recent);
  const [typed, setTyped] = useState("");
  const take = (command: Command) => {
    if (command.not) return;
    set({ dialog: null });
    settings.getState().change({ recent: [command.id, ...recent.filter((id) => id !== command.id)].slice(0, 50) });
    // After the dialog has given the focus back.
    setTimeout(() => command.run(), 0);
  };
  const asked = commands.filter(({ id }) => id !== "find");
  const last = typed ? [] : recent.flatMap((id) => asked.find((one) => one.id === id) ?? []).slice(0, RECENT);
  return (
    <Palette label="Find anything" loop filter={fits} className="flex min-h-0 flex-col">
      <Palette.Input
        value={typed}
        onValueChange={setTyped}
        placeholder="A tool, step, body, part, parameter, view …"
        className="m-2 h-9 rounded border border-line bg-paper px-2.5 outline-offset-0"
      />
      <Palette.List className="min-h-0 overflow-auto px-2 pb-2">
        <Palette.Empty className="px-2 py-3 text-soft">Nothing here is called like that.</Palette.Empty>
        {last.length > 0 ? <Group name="Used last" commands={last} take={take} mark="last:" /> : null}
        {GROUPS.map((name) => {
          const mine = asked.filter((one) => one.group === name && !last.includes(one));
          return mine.length > 0 ? <Group key={name} name={name} commands={mine} take={take} mark="" /> : null;
        })}
      </Palette.List>
    </Palette>
  );
}

function Group({
  name,
  commands,
  take,
  mark,
}: {
  name: string;
  commands: Command[];
  take(command: Command): void;
  mark: string;
}) {
  const keys = useSettings((state) => state.keys);
  return (
    <Palette.Group
      heading={name}
      className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-0.5 [&_[cmdk-group-heading]]:text-[0.75rem] [&_[cmdk-group-heading]]:text-soft"
    >
      {commands.map((command) => {
        const key = keysFor(command.id, keys);
        const tool = command.id.startsWith("tool:") ? command.id.slice(5) : "";
        return (
          <Palette.Item
            key={command.id}
            value={`${mark}${command.id} ${command.label}`}
            keywords={[command.label, command.line ?? ""]}
            disabled={Boolean(command.not)}
            onSelect={() => take(command)}
            className="flex items-center gap-2.5 rounded px-2 py-1 data-[disabled=true]:opacity-50 data-[selected=true]:bg-pick-wash"
          >
            <span className="flex w-5 justify-center">
              {hasToolMark(tool) ? <ToolMark id={tool} size={18} /> : null}
            </span>
            <span className="min-w-0 shrink-0 max-w-[55%] truncate">{command.label}</span>
            <span className="min-w-0 grow truncate text-[0.8125rem] text-soft">{command.not ?? command.line}</span>
            {key ? <kbd className="num shrink-0 rounded border border-line px-1">{key}</kbd> : null}
          </Palette.Item>
        );
      })}
    </Palette.Group>
  );
}

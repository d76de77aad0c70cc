"use client";
import { Dialog } from "radix-ui";
import { ToolMark } from "../marks/tool-marks";
import { useWorkspace } from "../state/context";
import { TOOLS } from "../workspace/tools";
import { HELP } from "./pages";

/** The page of a tool: what goes in, what comes out, an example with its picture. */
export function HelpDialog() {
  const dialog = useWorkspace((state) => state.dialog);
  const set = useWorkspace((state) => state.set);
  const id = typeof dialog === "object" && dialog !== null ? dialog.help : null;
  const page = id === null ? undefined : HELP[id];
  const tool = TOOLS.find((one) => one.id === id);
  return (
    <Dialog.Root open={page !== undefined} onOpenChange={(next) => !next && set({ dialog: null })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[10vh] left-1/2 z-50 max-h-[80vh] w-[min(34rem,92vw)] -translate-x-1/2 overflow-auto rounded border border-rule bg-sheet p-4 shadow-xl"
        >
          {page && tool ? (
            <>
              <div className="mb-1 flex items-center gap-2">
                <ToolMark id={tool.id} size={26} />
                <Dialog.Title className="grow text-[1.0625rem] font-semibold">{tool.label}</Dialog.Title>
                <Dialog.Close className="rounded px-2 py-1 text-soft hover:bg-well hover:text-ink">Close</Dialog.Close>
              </div>
              <p className="mb-3 text-soft">{tool.line}.</p>
              <dl className="grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-3 gap-y-1.5">
                <dt className="text-soft">Goes in</dt>
                <dd>{page.takes}</dd>
                <dt className="text-soft">Comes out</dt>
                <dd>{page.gives}</dd>
                {page.mind ? (
                  <>
                    <dt className="text-soft">Mind</dt>
                    <dd>{page.mind}</dd>
                  </>
                ) : null}
              </dl>
              <figure className="mt-3 border-t border-line pt-3">
                <img
                  src={`/help/${tool.id}.png`}
                  width={440}
                  height={260}
                  alt={`${tool.label}: ${page.example}`}
                  className="mx-auto rounded border border-line"
                />
                <figcaption className="mt-1.5 text-[0.8125rem] text-soft">{page.example}</figcaption>
              </figure>
            </>
          ) : null}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

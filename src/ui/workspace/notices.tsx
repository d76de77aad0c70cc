"use client";
import { useRouter } from "next/navigation";
import { Button } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useJob } from "../state/context";

/** What stands between an edit and the server, said plainly, with ways out that lose nothing. */
export function Notices() {
  const save = useJob((state) => state.save);
  const { rebase, takeTheirs, saveCopy, flush } = useJob((state) => state);
  const router = useRouter();
  if (save.kind === "saved" || save.kind === "saving") return null;
  const frame = "flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-warn-wash px-3 py-2";
  if (save.kind === "waiting")
    return (
      <div role="alert" className={frame}>
        <Mark name="warned" />
        <p className="grow">{save.message} Your edits are kept in this browser and go out as soon as it answers.</p>
        <Button small onClick={() => void flush()}>
          Try now
        </Button>
      </div>
    );
  if (save.kind === "refused")
    return (
      <div role="alert" className={frame}>
        <Mark name="warned" />
        <p className="grow">{save.message} The job is as it was before.</p>
      </div>
    );
  const there = save.since.map((entry) => `“${entry.label}”`).join(", ");
  const here = save.mine.map((label) => `“${label}”`).join(", ");
  return (
    <div role="alert" className={frame}>
      <Mark name="stale" />
      <p className="min-w-72 grow">
        This job was changed in another window{there ? `: ${there}` : ""}.{" "}
        {here ? `Your ${here} is not saved, and not lost: choose what becomes of it.` : "Load it again to go on."}
      </p>
      {here ? (
        <>
          <Button small tone="main" onClick={() => void rebase()}>
            Put mine on top
          </Button>
          <Button small onClick={() => void saveCopy().then((id) => router.push(`/jobs/${id}`))}>
            Save mine as a copy
          </Button>
        </>
      ) : null}
      <Button small onClick={() => void takeTheirs()}>
        {here ? "Drop mine" : "Load it"}
      </Button>
    </div>
  );
}

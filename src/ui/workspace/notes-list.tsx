"use client";
import { nanoid } from "nanoid";
import { useState } from "react";
import { lookEdits, type Note } from "@/core/job";
import type { BodyView } from "@/engine/contract";
import { Button } from "../controls/controls";
import { useFound, usePart, useStores, useWorkspace } from "../state/context";
import { notesOf } from "../state/notes";
import { faceRef } from "../state/refs";

/** The notes on a body and its faces, and a box for another: on the clicked face where there is one. */
export function NotesList({ body }: { body: BodyView }) {
  const { job } = useStores();
  const part = usePart();
  const clicked = useWorkspace((state) => state.selectedFace);
  const set = useWorkspace((state) => state.set);
  const [text, setText] = useState("");
  const face = clicked === null ? undefined : body.faces[clicked];
  const keep = (label: string, note: Note) =>
    job.store.getState().editPart(part.id, label, (draft) => lookEdits.setNote(draft, note));
  const found = useFound();
  const add = () => {
    if (!text.trim()) return;
    keep(`Note on ${body.name}`, {
      id: nanoid(10).replace(/[^A-Za-z0-9_-]/g, "0"),
      body: body.id,
      ...(face ? { face: faceRef(body, face) } : {}),
      text: text.trim(),
    });
    setText("");
  };
  return (
    <section aria-label="Notes" className="mt-2 border-t border-line pt-2">
      <ol className="flex flex-col gap-1">
        {notesOf(part, body, found).map(({ note, face: at, guessed }, number) => (
          <li
            key={note.id}
            className="flex gap-2 rounded bg-well px-2 py-1"
            onPointerEnter={() => set({ hover: { id: body.id, face: at } })}
            onPointerLeave={() => set({ hover: null })}
          >
            <span className="num text-soft">{number + 1}</span>
            <span className="min-w-0 grow break-words whitespace-pre-wrap">
              {note.text}
              {note.face && at === null ? (
                <span className="block text-[0.8125rem] text-warn">Its face is gone.</span>
              ) : null}
              {guessed ? (
                <span className="block text-[0.8125rem] text-warn">
                  Its face was found again by its shape. Check it.
                </span>
              ) : null}
            </span>
            <button
              type="button"
              aria-label={`Delete note ${number + 1}`}
              className="self-start rounded px-1 text-soft hover:text-bad"
              onClick={() => keep("Delete a note", { ...note, text: "" })}
            >
              ×
            </button>
          </li>
        ))}
      </ol>
      <div className="mt-1 flex gap-1.5">
        <input
          aria-label={face ? "Note on the clicked face" : "Note on the body"}
          placeholder={face ? "Note on the clicked face" : "Note on the body"}
          value={text}
          maxLength={2000}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && add()}
          className="h-7 min-w-0 grow rounded border border-line bg-sheet px-2"
        />
        <Button small onClick={add} disabled={!text.trim()}>
          Add
        </Button>
      </div>
    </section>
  );
}

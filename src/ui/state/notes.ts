import type { Note, Part } from "@/core/job";
import type { BodyView } from "@/engine/contract";
import { idsOf } from "./looks";

/** The notes on a body, and on which of its faces each is, by place: null for the body, or where the face is gone. */
export function notesOf(part: Part, body: BodyView): { note: Note; face: number | null }[] {
  return part.notes.flatMap((note) => {
    if (!idsOf(body).includes(note.body)) return [];
    if (!note.face) return [{ note, face: null }];
    const face = body.faces.findIndex(({ name }) => name === note.face!.face);
    // Of a body that was divided, the note stays with the piece that has the face.
    return face >= 0 || note.body === body.id ? [{ note, face: face >= 0 ? face : null }] : [];
  });
}

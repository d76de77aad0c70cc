import type { Note, Part } from "@/core/job";
import type { BodyView } from "@/engine/contract";
import { idsOf } from "./looks";
import type { Found } from "./whereabouts";

/** A note on a body, and on which of its faces it is, by place: null for the body, or where the face is gone. */
export interface PlacedNote {
  note: Note;
  face: number | null;
  /** Whether the face was found by what it looks like. */
  guessed: boolean;
}

export function notesOf(part: Part, body: BodyView, found: Found): PlacedNote[] {
  return part.notes.flatMap((note): PlacedNote[] => {
    if (!idsOf(body).includes(note.body)) return [];
    if (!note.face) return [{ note, face: null, guessed: false }];
    const at = found.part(note.face);
    const here = at !== null && (at.now.body === body.id || at.now.body === note.body);
    const face = here ? body.faces.findIndex(({ name }) => name === at.now.face) : -1;
    // Of a body that was divided, the note stays with the piece that has the face.
    if (face >= 0) return [{ note, face, guessed: at?.guessed === true }];
    return note.body === body.id ? [{ note, face: null, guessed: false }] : [];
  });
}

// Notes and photos made at a plant, with or without a connection.
import { client, take, type Schemas } from "../api/client";
import { deviceBox, type Box } from "../deviceBox";
import { fromDataUrl } from "../photo";
import { createSendBox, nextOrder, sendWhenItCan, type SendBox, type ToSend } from "./sendBox";

export type Note = Schemas["NoteOut"];

export interface KeptNote extends ToSend {
  trial: number;
  look: number;
  body: Schemas["NoteIn"];
  /** The photo as a data address, "" for none. */
  photo: string;
}

export interface NoteBox extends Omit<SendBox<KeptNote, Note>, "put" | "all"> {
  /** What this device holds of a look, the refused ones too. */
  of: (trial: number, look: number) => KeptNote[];
  put: (note: Omit<KeptNote, "key" | "order">) => void;
}

export function createNoteBox(send: (note: KeptNote) => Promise<Note>, opened: Promise<Box>): NoteBox {
  const box = createSendBox<KeptNote, Note>("notes", "a note", send, opened);
  return {
    ...box,
    of: (trial, look) => box.all.value.filter((n) => n.trial === trial && n.look === look),
    put: (note) => {
      box.put({ ...note, key: note.body.key, order: nextOrder(box.all.value) });
    },
  };
}

/** Both steps may be sent again: the note has a name of its own, and a picture is the same file. */
export async function sendNote(note: KeptNote): Promise<Note> {
  const kept = await take(
    client.POST("/api/trials/{trial_id}/looks/{number}/notes", { params: { path: { trial_id: note.trial, number: note.look } }, body: note.body }),
  );
  return note.photo ? sendPhoto(kept.id, fromDataUrl(note.photo)) : kept;
}

/** Gives a note its picture. */
export function sendPhoto(id: number, photo: Blob): Promise<Note> {
  return take(
    client.PUT("/api/notes/{row_id}/picture", {
      params: { path: { row_id: id } },
      body: photo as unknown as string,
      bodySerializer: (body) => body as unknown as Blob,
      headers: { "Content-Type": photo.type || "image/jpeg" },
    }),
  );
}

let shared: NoteBox | undefined;

/** The one box of notes of this device. */
export function useNoteBox(): NoteBox {
  if (!shared) {
    shared = createNoteBox(sendNote, deviceBox());
    sendWhenItCan(shared);
  }
  return shared;
}

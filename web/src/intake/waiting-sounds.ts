import { counted, wordFor } from "@humming-tide/core/language";
import { addSong, addVoice, chooseSong, openLocks } from "@humming-tide/core/show";
import { edit } from "../store/edit.ts";
import { store } from "../store/store.ts";
import { viewActions } from "../store/view-slice.ts";
import { intakeActions, type WaitingSound } from "./intake-slice.ts";

/** What a person can say a sound is. "library": nothing yet; it is found there on Listen. */
export type SoundUse = "replace" | "add" | "voice" | "library";

/** The new song is taken, and it is said what became of the one before. */
function replaceSong(file: { readonly sha256: string; readonly fileName: string }): void {
  const [before] = store.getState().show.document?.songs ?? [];
  edit((show) => chooseSong(show, file));
  const { document } = store.getState().show;
  if (!before || !document) return;
  const waiting = openLocks(document).length;
  const locks =
    waiting > 0 ? ` ${counted(waiting, "lock")} of it ${wordFor(waiting, "waits", "wait")} on the Score.` : "";
  store.dispatch(viewActions.toastShown(`“${before.fileName}” is kept with all that you set.${locks}`));
}

/** Does with a sound that waits what a person said; one step to undo. */
export function takeSoundAs({ id, sha256, fileName }: WaitingSound, use: SoundUse): void {
  const file = { sha256, fileName };
  if (use === "replace") replaceSong(file);
  if (use === "add") edit((show) => addSong(show, file));
  if (use === "voice") edit((show) => addVoice(show, file, { slideId: null, seconds: 0 }));
  const message = use === "library" ? "It is in the song library, on Listen." : null;
  store.dispatch(intakeActions.soundDecided({ id, message }));
}

import { isSeen, mediaFactsSchema } from "@humming-tide/contract";
import { SOUND_KIND_WORDS, type SoundKind } from "@humming-tide/core/sound";
import { z } from "zod";
import { store } from "../store/store.ts";
import { intakeActions } from "./intake-slice.ts";

const keyOf = (showId: string): string => `humming-tide questions ${showId}`;

const keptSchema = z.object({
  sounds: z
    .array(
      z.object({
        id: z.string(),
        sha256: z.string(),
        fileName: z.string(),
        durationSeconds: z.number(),
        kind: z.enum(Object.keys(SOUND_KIND_WORDS) as [SoundKind, ...SoundKind[]]),
      }),
    )
    .max(1000),
  retouched: z.array(mediaFactsSchema).max(5000),
});

/**
 * Keeps in this browser what a person was asked about files that came in and has not answered: what
 * a sound is for, and which slides retouched files belong to. The files are in the data folder; the
 * questions come back with the show, after a reload or a crash. Returns a function that stops.
 */
export function keepQuestions(showId: string): () => void {
  restore(showId);
  let { sounds, retouched } = store.getState().intake;
  return store.subscribe(() => {
    const { intake } = store.getState();
    if (intake.sounds === sounds && intake.retouched === retouched) return;
    ({ sounds, retouched } = intake);
    try {
      if (sounds.length + retouched.length === 0) localStorage.removeItem(keyOf(showId));
      else localStorage.setItem(keyOf(showId), JSON.stringify({ sounds, retouched }));
    } catch {
      // The browser's room is full: the questions last as long as the page.
    }
  });
}

function restore(showId: string): void {
  const kept = read(showId);
  if (!kept) return;
  if (kept.sounds.length > 0) store.dispatch(intakeActions.soundsAsked(kept.sounds));
  if (kept.retouched.length > 0) store.dispatch(intakeActions.retouchedArrived(kept.retouched.filter(isSeen)));
}

/** Null where nothing was kept, or it cannot be read. */
function read(showId: string): z.infer<typeof keptSchema> | null {
  try {
    return keptSchema.safeParse(JSON.parse(localStorage.getItem(keyOf(showId)) ?? "null")).data ?? null;
  } catch {
    return null;
  }
}

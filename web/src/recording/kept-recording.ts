import { itemAt } from "@humming-tide/core/presence";
import { delMany, entries, set } from "idb-keyval";

/**
 * A recording while it is made, kept in the browser second by second: a window that is closed or a
 * page that dies loses the last second at most.
 */
export interface KeptRecording {
  /** Of this recording among those of its show; later ones come later in the order of text. */
  readonly id: string;
  readonly pieces: readonly Float32Array[];
  readonly sampleRate: number;
  /** Of the film, where it began. */
  readonly filmSeconds: number;
  /** The voice that it is another take of; null: a new one. */
  readonly takeOfVoice: string | null;
}

interface KeptPiece extends Omit<KeptRecording, "id" | "pieces"> {
  readonly samples: Float32Array;
}

const prefixOf = (showId: string): string => `recording ${showId} `;

/** Keeps the next piece of a recording. */
export const keepPiece = (showId: string, recordingId: string, number: number, piece: KeptPiece): Promise<void> =>
  set(`${prefixOf(showId)}${recordingId} ${String(number).padStart(6, "0")}`, piece);

/**
 * The oldest recording of a show that was neither taken into it nor thrown away; null where there
 * is none.
 */
export async function keptRecording(showId: string): Promise<KeptRecording | null> {
  const kept = (await entries<string, KeptPiece>())
    .filter(([key]) => typeof key === "string" && key.startsWith(prefixOf(showId)))
    .sort(([a], [b]) => (a < b ? -1 : 1));
  const first = kept[0];
  if (!first) return null;
  const id = itemAt(first[0].slice(prefixOf(showId).length).split(" "), 0);
  const own = kept.filter(([key]) => key.startsWith(`${prefixOf(showId)}${id} `));
  const { sampleRate, filmSeconds, takeOfVoice } = first[1];
  return { id, pieces: own.map(([, { samples }]) => samples), sampleRate, filmSeconds, takeOfVoice };
}

/** Throws a recording away, once it lies on the server or is not wanted. */
export async function forgetRecording(showId: string, recordingId: string): Promise<void> {
  const keys = (await entries<string, KeptPiece>()).map(([key]) => key);
  await delMany(keys.filter((key) => typeof key === "string" && key.startsWith(`${prefixOf(showId)}${recordingId} `)));
}

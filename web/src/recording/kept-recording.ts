import { delMany, entries, set } from "idb-keyval";

/** A recording while it is made, kept in the browser second by second: a window that is closed or a page that dies loses the last second at most. */
export interface KeptRecording {
  readonly pieces: readonly Float32Array[];
  readonly sampleRate: number;
  /** Of the film, where it began. */
  readonly filmSeconds: number;
  /** The voice that it is another take of; null: a new one. */
  readonly takeOfVoice: string | null;
}

interface KeptPiece extends Omit<KeptRecording, "pieces"> {
  readonly samples: Float32Array;
}

const prefixOf = (showId: string): string => `recording ${showId} `;

/** Keeps the next piece of a show's recording. */
export const keepPiece = (showId: string, number: number, piece: KeptPiece): Promise<void> =>
  set(`${prefixOf(showId)}${String(number).padStart(6, "0")}`, piece);

/** What was kept of a show's recording and neither taken into the show nor thrown away; null where there is none. */
export async function keptRecording(showId: string): Promise<KeptRecording | null> {
  const kept = (await entries<string, KeptPiece>())
    .filter(([key]) => typeof key === "string" && key.startsWith(prefixOf(showId)))
    .sort(([a], [b]) => (a < b ? -1 : 1));
  const first = kept[0]?.[1];
  if (!first) return null;
  const { sampleRate, filmSeconds, takeOfVoice } = first;
  return { pieces: kept.map(([, { samples }]) => samples), sampleRate, filmSeconds, takeOfVoice };
}

/** Throws a show's recording away, once it lies on the server or is not wanted. */
export async function forgetRecording(showId: string): Promise<void> {
  const keys = (await entries<string, KeptPiece>()).map(([key]) => key);
  await delMany(keys.filter((key) => typeof key === "string" && key.startsWith(prefixOf(showId))));
}

import type { MusicAnalysis, WaveformPeaks } from "@humming-tide/core/music";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { castDraft } from "immer";

/** What was heard in a song, or why it cannot be. */
export type HeardSong =
  | { readonly analysis: MusicAnalysis; readonly peaks: WaveformPeaks; readonly failure: null }
  | { readonly analysis: null; readonly peaks: null; readonly failure: string };

/** The songs of the open show, by content hash, as far as they have been fetched. */
interface SongState {
  readonly heard: Readonly<Record<string, HeardSong>>;
  /** The song that Listen shows; null, or one that has gone: the first. */
  readonly chosenId: string | null;
}

const none: SongState = { heard: {}, chosenId: null };

const slice = createSlice({
  name: "song",
  initialState: none,
  reducers: {
    songsCleared: () => none,
    songHeard(state, { payload }: PayloadAction<{ sha256: string; heard: HeardSong }>) {
      state.heard[payload.sha256] = castDraft(payload.heard);
    },
    songChosen(state, { payload }: PayloadAction<string>) {
      state.chosenId = payload;
    },
  },
});

export const songReducer = slice.reducer;
export const songActions = slice.actions;

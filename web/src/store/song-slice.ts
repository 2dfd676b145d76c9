import type { MusicAnalysis, WaveformPeaks } from "@humming-tide/core/music";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** What was heard in the show's song, once it has been fetched. */
interface SongState {
  readonly sha256: string | null;
  readonly analysis: MusicAnalysis | null;
  readonly peaks: WaveformPeaks | null;
  readonly failure: string | null;
}

const none: SongState = { sha256: null, analysis: null, peaks: null, failure: null };

const slice = createSlice({
  name: "song",
  initialState: none,
  reducers: {
    songCleared: () => none,
    songHeard: (
      _state,
      { payload }: PayloadAction<{ sha256: string; analysis: MusicAnalysis; peaks: WaveformPeaks }>,
    ): SongState => ({
      ...payload,
      failure: null,
    }),
    songFailed: (_state, { payload }: PayloadAction<{ sha256: string; failure: string }>): SongState => ({
      ...none,
      ...payload,
    }),
  },
});

export const songReducer = slice.reducer;
export const songActions = slice.actions;

import type { WaveformPeaks } from "@humming-tide/core/music";
import type { SpeechFacts } from "@humming-tide/core/sound";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { castDraft } from "immer";

/** What is known of the sounds of the open show, and which are listened to. */
interface SoundState {
  /** By content hash, as far as they have been fetched. */
  readonly speech: Readonly<Record<string, SpeechFacts>>;
  /** Of voices and clips. */
  readonly peaks: Readonly<Record<string, WaveformPeaks>>;
  /** Sources that are listened to alone: "kind id". Never saved, and not in the exported film. */
  readonly soloed: readonly string[];
  /** The voice that is being worked on. */
  readonly voiceId: string | null;
}

const none: SoundState = { speech: {}, peaks: {}, soloed: [], voiceId: null };

interface FoundSpeech {
  readonly sha256: string;
  readonly speech: SpeechFacts;
  readonly peaks: WaveformPeaks | null;
}

const slice = createSlice({
  name: "sound",
  initialState: none,
  reducers: {
    soundsCleared: () => none,
    speechFound(state, { payload: { sha256, speech, peaks } }: PayloadAction<FoundSpeech>) {
      state.speech[sha256] = castDraft(speech);
      if (peaks) state.peaks[sha256] = castDraft(peaks);
    },
    soloToggled(state, { payload }: PayloadAction<string>) {
      const at = state.soloed.indexOf(payload);
      if (at < 0) state.soloed.push(payload);
      else state.soloed.splice(at, 1);
    },
    voiceChosen(state, { payload }: PayloadAction<string | null>) {
      state.voiceId = payload;
    },
  },
});

export const soundReducer = slice.reducer;
export const soundActions = slice.actions;

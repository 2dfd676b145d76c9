import type { WaveformPeaks } from "@humming-tide/core/music";
import type { SpeechFacts } from "@humming-tide/core/sound";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { plain } from "./plain.ts";

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
    speechFound: (state, { payload: { sha256, speech, peaks } }: PayloadAction<FoundSpeech>): SoundState => {
      const was = plain<SoundState>(state);
      return {
        ...was,
        speech: { ...was.speech, [sha256]: speech },
        peaks: peaks ? { ...was.peaks, [sha256]: peaks } : was.peaks,
      };
    },
    soloToggled: (state, { payload }: PayloadAction<string>): SoundState => {
      const was = plain<SoundState>(state);
      const soloed = was.soloed.includes(payload)
        ? was.soloed.filter((owner) => owner !== payload)
        : [...was.soloed, payload];
      return { ...was, soloed };
    },
    voiceChosen: (state, { payload }: PayloadAction<string | null>): SoundState => ({
      ...plain<SoundState>(state),
      voiceId: payload,
    }),
  },
});

export const soundReducer = slice.reducer;
export const soundActions = slice.actions;

import type { WaveformPeaks } from "@humming-tide/core/music";
import type { Master, SpeechFacts } from "@humming-tide/core/sound";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { plain } from "./plain.ts";

/** What is known of the sounds of the open show, and of their mix. */
interface SoundState {
  /** By content hash, as far as they have been fetched. */
  readonly speech: Readonly<Record<string, SpeechFacts>>;
  /** Of voices and clips. */
  readonly peaks: Readonly<Record<string, WaveformPeaks>>;
  /** Of the newest mix that was measured; null before the first. */
  readonly master: Master | null;
  /** How far the measuring of a newer mix is, 0 to 1; null where there is none. */
  readonly measuring: number | null;
  /** Sources that are listened to alone: "kind id". Never saved, and not in the exported film. */
  readonly soloed: readonly string[];
  /** The voice that is being worked on. */
  readonly voiceId: string | null;
}

const none: SoundState = { speech: {}, peaks: {}, master: null, measuring: null, soloed: [], voiceId: null };

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
    measuringWent: (state, { payload }: PayloadAction<number | null>): SoundState => ({
      ...plain<SoundState>(state),
      measuring: payload,
    }),
    mixMeasured: (state, { payload }: PayloadAction<Master>): SoundState => ({
      ...plain<SoundState>(state),
      master: payload,
      measuring: null,
    }),
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

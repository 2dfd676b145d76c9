import { joinSamples, writeWav } from "@humming-tide/core/sound";
import { type RefObject, useCallback, useEffect, useRef, useState } from "react";
import { usePlayer } from "../stage/player-context.tsx";
import { forgetRecording, keepPiece } from "./kept-recording.ts";
import { Microphone } from "./microphone.ts";

export type RecordingStep =
  | { readonly kind: "ready" }
  | { readonly kind: "counting"; readonly left: number }
  | { readonly kind: "recording"; readonly seconds: number }
  | { readonly kind: "taken"; readonly seconds: number; readonly clipped: boolean }
  | { readonly kind: "failed"; readonly message: string };

export interface Taken {
  /** Under which it is kept in the browser. */
  readonly recordingId: string;
  readonly file: File;
  readonly filmSeconds: number;
}

interface RecordingWish {
  readonly showId: string;
  readonly deviceId: string;
  readonly takeOfVoice: string | null;
  /** The film's sound plays while it is recorded. */
  readonly playsFilm: boolean;
}

const COUNT_IN = 3;
const CLIPPED = 0.999;

/**
 * Records something spoken: an open microphone with its level, a count-in, the recording kept in
 * the browser as it grows, and at last a file.
 */
export function useRecording({ showId, deviceId, takeOfVoice, playsFilm }: RecordingWish): {
  readonly step: RecordingStep;
  /** Highest sample since it was last asked for. */
  readonly levelNow: () => number;
  readonly start: () => void;
  readonly stop: () => void;
  readonly again: () => void;
  readonly taken: () => Taken | null;
} {
  const player = usePlayer();
  const [step, setStep] = useState<RecordingStep>({ kind: "ready" });
  const level = useRef(0);
  const recording = useRef<Recording | null>(null);
  const [result, setResult] = useState<Taken | null>(null);

  const heed = useCallback(
    (samples: Float32Array): void => {
      const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
      level.current = Math.max(level.current, peak);
      const seconds = recording.current?.add(samples, peak, player.filmSeconds());
      if (seconds !== undefined) setStep({ kind: "recording", seconds });
    },
    [player],
  );
  const microphone = useMicrophone(deviceId, heed, setStep);

  const begin = useCallback(() => {
    const open = microphone.current;
    if (!open) return;
    recording.current = new Recording(showId, open.sampleRate, takeOfVoice);
    setStep({ kind: "recording", seconds: 0 });
    if (playsFilm) void player.play();
  }, [microphone, player, playsFilm, showId, takeOfVoice]);

  useEffect(() => {
    if (step.kind !== "counting") return;
    const timer = setTimeout(
      () => (step.left > 1 ? setStep({ kind: "counting", left: step.left - 1 }) : begin()),
      1000,
    );
    return () => clearTimeout(timer);
  }, [step, begin]);

  /** What was recorded is not wanted. */
  const drop = (): void => {
    if (result) void forgetRecording(showId, result.recordingId);
    setResult(null);
  };

  return {
    step,
    levelNow: () => {
      const now = level.current;
      level.current = 0;
      return now;
    },
    start: () => {
      player.pause();
      drop();
      setStep({ kind: "counting", left: COUNT_IN });
    },
    stop: () => {
      player.pause();
      const made = recording.current;
      recording.current = null;
      if (!made || made.seconds === 0) return setStep({ kind: "ready" });
      setResult({ file: made.file(), filmSeconds: made.filmSeconds, recordingId: made.id });
      player.seek(made.filmSeconds);
      setStep({ kind: "taken", seconds: made.seconds, clipped: made.clipped });
    },
    again: () => {
      drop();
      setStep({ kind: "ready" });
    },
    taken: () => result,
  };
}

/** The open microphone of a device; another device closes it and opens its own. */
function useMicrophone(
  deviceId: string,
  heed: (samples: Float32Array) => void,
  setStep: (step: RecordingStep) => void,
): RefObject<Microphone | null> {
  const microphone = useRef<Microphone | null>(null);
  useEffect(() => {
    let isOver = false;
    Microphone.open(deviceId, heed).then(
      (opened) => {
        if (isOver) opened.close();
        else microphone.current = opened;
      },
      (error: Error) => !isOver && setStep({ kind: "failed", message: error.message }),
    );
    setStep({ kind: "ready" });
    return () => {
      isOver = true;
      microphone.current?.close();
      microphone.current = null;
    };
  }, [deviceId, heed, setStep]);
  return microphone;
}

/** About a second: what a page that dies may lose. */
const KEPT_PIECES = 32;

class Recording {
  readonly #showId: string;
  readonly #sampleRate: number;
  readonly #takeOfVoice: string | null;
  /** Later recordings come later in the order of text. */
  readonly id = Date.now().toString(36);
  readonly #pieces: Float32Array[] = [];
  #waiting: Float32Array[] = [];
  #kept = 0;
  #frames = 0;
  clipped = false;
  /** Of the film, where its first sample was spoken. */
  filmSeconds = 0;

  constructor(showId: string, sampleRate: number, takeOfVoice: string | null) {
    this.#showId = showId;
    this.#sampleRate = sampleRate;
    this.#takeOfVoice = takeOfVoice;
  }

  get seconds(): number {
    return this.#frames / this.#sampleRate;
  }

  add(samples: Float32Array, peak: number, filmSeconds: number): number {
    if (this.#frames === 0) this.filmSeconds = Math.max(0, filmSeconds - samples.length / this.#sampleRate);
    this.#frames += samples.length;
    this.clipped ||= peak >= CLIPPED;
    this.#pieces.push(samples);
    this.#waiting.push(samples);
    if (this.#waiting.length >= KEPT_PIECES) this.#keep();
    return this.seconds;
  }

  #keep(): void {
    const samples = new Float32Array(this.#waiting.reduce((sum, piece) => sum + piece.length, 0));
    let at = 0;
    for (const piece of this.#waiting) {
      samples.set(piece, at);
      at += piece.length;
    }
    this.#waiting = [];
    const { filmSeconds } = this;
    const piece = { samples, sampleRate: this.#sampleRate, filmSeconds, takeOfVoice: this.#takeOfVoice };
    // A browser that keeps nothing still records: the whole lies in memory as well.
    keepPiece(this.#showId, this.id, this.#kept++, piece).catch(() => undefined);
  }

  file(): File {
    this.#keep();
    return recordingFile(this.#pieces, this.#sampleRate);
  }
}

/** A recording as a file, named by the time. */
export function recordingFile(pieces: readonly Float32Array[], sampleRate: number): File {
  const time = new Date().toLocaleString("sv-SE").replace(" ", " at ").replaceAll(":", ".");
  return new File([writeWav([joinSamples(pieces)], sampleRate, 24)], `Voice ${time}.wav`, { type: "audio/wav" });
}

import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { speechFactsSchema } from "@humming-tide/contract";
import { packPeaks } from "@humming-tide/core/music";
import { present } from "@humming-tide/core/presence";
import { LoudnessMeter, type SpeechFacts } from "@humming-tide/core/sound";
import { hearSpeech } from "../workers/hear-speech.ts";
import { clipTimes } from "./clip-times.ts";
import { decodeToFlac, FILM_SAMPLE_RATE } from "./decode-sound.ts";
import { mediaError } from "./media-errors.ts";
import { SONG_FILES } from "./song-intake.ts";
import { inStepWithPictures, stereoPieces } from "./stereo-pieces.ts";
import { encodeStereo } from "./write-stereo.ts";

/** Files made of each voice, and of each clip that is heard. */
export const SPOKEN_FILES = { sound: SONG_FILES.sound, peaks: SONG_FILES.peaks, speech: "speech.json" } as const;

const SHORTEST_SECONDS = 0.1;

/**
 * Decodes what is spoken, finds where, and writes sound, waveform and facts. Throws
 * `voice-damaged`, `voice-too-short` or `ffmpeg-missing`.
 */
export async function writeSpoken(original: string, folder: string, kind: "voice" | "clip"): Promise<void> {
  const sound = path.join(folder, SPOKEN_FILES.sound);
  try {
    await decodeToFlac(original, sound, {
      filter: kind === "clip" ? inStepWithPictures((await clipTimes(original)).firstSeconds) : null,
    });
  } catch (cause) {
    if (/no space left/i.test(String((cause as { cause?: Error }).cause?.message)))
      throw Object.assign(new Error("No space left on device", { cause }), { code: "ENOSPC" });
    if ((cause as { code?: string }).code !== "ffmpeg-failed") throw cause;
    throw mediaError("voice-damaged", { why: (cause as Error).message }, { cause });
  }
  const { facts, peaks } = await hearSpeech(sound, "peaks");
  if (kind === "voice" && facts.durationSeconds < SHORTEST_SECONDS)
    throw mediaError("voice-too-short", { durationSeconds: facts.durationSeconds, leastSeconds: SHORTEST_SECONDS });
  await writeFile(path.join(folder, SPOKEN_FILES.peaks), packPeaks(present(peaks)));
  await writeFile(path.join(folder, SPOKEN_FILES.speech), JSON.stringify(facts));
}

/**
 * How loud a song is, from its decode; nobody is looked for in it who speaks. In pieces of a few
 * milliseconds: others are answered meanwhile, and no thread has to be started.
 */
export async function measureSong(sound: string): Promise<SpeechFacts> {
  const loudness = new LoudnessMeter();
  let frameCount = 0;
  for await (const piece of stereoPieces(sound)) {
    loudness.add(piece);
    frameCount += piece[0].length;
  }
  const { integratedLufs } = loudness.result();
  const lufs = Number.isFinite(integratedLufs) ? integratedLufs : null;
  return { durationSeconds: frameCount / FILM_SAMPLE_RATE, stretches: [], lufs, noiseDecibels: null };
}

/** The facts of speech that were written. Throws what reading throws. */
export const heardIn = async (speechPath: string): Promise<SpeechFacts> =>
  speechFactsSchema.parse(JSON.parse(await readFile(speechPath, "utf8")));

/** Writes a voice with its noise taken down, from its decode. */
export async function writeCleaned(spokenSound: string, folder: string): Promise<void> {
  const { cleaned } = await hearSpeech(spokenSound, "cleaned");
  await encodeStereo(present(cleaned), path.join(folder, SPOKEN_FILES.sound));
}

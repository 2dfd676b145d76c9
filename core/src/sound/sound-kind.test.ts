import { describe, expect, it } from "vitest";
import { firstSong, type SoundKind, soundKind } from "./sound-kind.ts";
import type { SpeechFacts } from "./speech.ts";

const speechOf = (durationSeconds: number, spokenSeconds: number): SpeechFacts => ({
  durationSeconds,
  stretches: [{ startSeconds: 1, endSeconds: 1 + spokenSeconds }],
  lufs: -20,
  noiseDecibels: -60,
});

describe("what a sound sounds like", () => {
  it.each<[string, SoundKind, boolean, number, number | null]>([
    ["a song with a singer", "song", true, 180, 150],
    ["a band that plays freely", "song", false, 120, 3],
    ["a toast", "voice", false, 90, 60],
    ["a short greeting", "voice", false, 6, 3],
    ["a jingle", "unclear", true, 8, 0],
    ["a chant over surf", "unclear", false, 120, 20],
    ["a sound about which nothing more is known", "unclear", false, 120, null],
  ])("%s is %s", (_, kind, steady, seconds, spoken) => {
    expect(soundKind({ steady, durationSeconds: seconds }, spoken === null ? null : speechOf(seconds, spoken))).toBe(
      kind,
    );
  });
});

describe("the song of a show that has none", () => {
  const sounds = (...kinds: SoundKind[]) => kinds.map((kind, index) => ({ kind, index }));
  it.each<[readonly SoundKind[], number | null]>([
    [["song"], 0],
    [["unclear"], 0],
    [["voice"], null],
    [["voice", "song", "song"], 1],
    [["voice", "unclear"], null],
    [["unclear", "unclear"], null],
    [[], null],
  ])("of %j is %j", (kinds, index) => {
    expect(firstSong(sounds(...kinds))?.index ?? null).toBe(index);
  });
});

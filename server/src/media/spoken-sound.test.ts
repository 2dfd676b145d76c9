import { execFileSync } from "node:child_process";
import { createReadStream } from "node:fs";
import path from "node:path";
import { Readable } from "node:stream";
import type { MediaFacts } from "@humming-tide/contract";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { decibels, type Stereo, soundName } from "@humming-tide/core/sound";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStudio, type Studio } from "../start-server.ts";
import { temporaryFolder } from "../testing/index.ts";
import { readStereo } from "../testing/read-stereo.ts";
import { SPOKEN_FILES } from "./spoken-sound.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;

beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"));
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

const made = (name: string, ...args: string[]): string => {
  const file = path.join(place.folder, name);
  execFileSync("ffmpeg", ["-v", "error", "-y", ...args, file]);
  return file;
};
const takeIn = (file: string, wanted: "any" | "voice" = "voice"): Promise<MediaFacts> =>
  studio.library.takeIn(createReadStream(file), path.basename(file), { wanted });
const decodeOf = async (name: string): Promise<Stereo> => {
  await studio.library.ensureSound(name);
  return readStereo(studio.library.store.derivedPath(name, SPOKEN_FILES.sound));
};
const rms = (samples: Float32Array, from = 0, to = samples.length): number =>
  Math.sqrt(samples.subarray(from, to).reduce((sum, sample) => sum + sample * sample, 0) / (to - from));

/** Syllables: a tone that comes and goes four times a second, between two silences. */
const SYLLABLES = [
  "-f",
  "lavfi",
  "-i",
  "sine=frequency=400:sample_rate=44100:duration=2,tremolo=f=4:d=0.9,adelay=1000:all=1,apad=pad_dur=1",
];

describe("voices", () => {
  it("come in without being taken for a song, at any rate, in one channel; where someone speaks is found", async () => {
    const facts = await takeIn(made("vows.wav", ...SYLLABLES, "-ac", "1"));
    expect(facts).toMatchObject({ kind: "voice", remark: null });
    const { stretches, durationSeconds } = await studio.library.speech(facts.sha256);
    expect(durationSeconds).toBeCloseTo(4, 2);
    expect(itemAt(stretches, 0).startSeconds).toBeCloseTo(1, 0);
    expect(lastOf(stretches).endSeconds).toBeCloseTo(3, 0);
    const [left, right] = await decodeOf(soundName(facts.sha256, "spoken"));
    expect(left).toHaveLength(4 * 48_000);
    expect(right).toEqual(left);
  });

  it("say that nobody speaks, and refuse what has no sound", async () => {
    const hum = await takeIn(made("hum.wav", "-f", "lavfi", "-i", "sine=frequency=100:duration=2"));
    expect(hum.kind === "voice" && hum.remark).toMatch(/No speech/);
    await expect(
      studio.library.takeIn(Readable.from([Buffer.from("RIFF....WAVEnothing")]), "broken.wav", { wanted: "voice" }),
    ).rejects.toThrow();
  });

  it("become a song when they come again as one, and stay a voice where they are heard", async () => {
    const file = made("both.wav", ...SYLLABLES);
    const voice = await takeIn(file);
    const song = await takeIn(file, "any");
    expect([voice.kind, song.kind, song.sha256]).toEqual(["voice", "song", voice.sha256]);
    expect(await takeIn(file)).toMatchObject({ kind: "song" });
    await expect(decodeOf(soundName(song.sha256, "spoken"))).resolves.toHaveLength(2);
  });

  it("are found in a file that came in as a song, where it is heard as a voice", async () => {
    const { sha256, kind } = await takeIn(made("toast.wav", ...SYLLABLES), "any");
    expect(kind).toBe("song");
    expect((await studio.library.speech(sha256)).stretches).toEqual([]);
    const { stretches } = await studio.library.speech(soundName(sha256, "spoken"));
    expect(itemAt(stretches, 0).startSeconds).toBeCloseTo(1, 0);
    expect(lastOf(stretches).endSeconds).toBeCloseTo(3, 0);
  });

  it("lose noise in a decode of their own", async () => {
    const noisy = made(
      "noisy.wav",
      ...SYLLABLES,
      ...["-f", "lavfi", "-i", "anoisesrc=amplitude=0.02:seed=3:duration=4:sample_rate=44100"],
      ...["-filter_complex", "amix=inputs=2:normalize=0"],
    );
    const { sha256 } = await takeIn(noisy);
    const [before] = await decodeOf(soundName(sha256, "spoken"));
    const [after] = await decodeOf(soundName(sha256, "cleaned"));
    expect(after).toHaveLength(before.length);
    expect(decibels(rms(after, 0, 40_000) / rms(before, 0, 40_000))).toBeLessThan(-7);
    expect(Math.abs(decibels(rms(after, 60_000, 130_000) / rms(before, 60_000, 130_000)))).toBeLessThan(0.5);
  });
});

describe("more than two channels", () => {
  // ITU-R BS.775-3, table 2: to each side its own front, centre and surround 3 dB lower, the low
  // effects nowhere.
  it.each([
    ["FL", 1, 0],
    ["FR", 0, 1],
    ["FC", Math.SQRT1_2, Math.SQRT1_2],
    ["LFE", 0, 0],
    ["BL", Math.SQRT1_2, 0],
    ["BR", 0, Math.SQRT1_2],
  ])("%s of 5.1 goes to the left by %d and to the right by %d, all at one scale", async (channel, left, right) => {
    const names = ["FL", "FR", "FC", "LFE", "BL", "BR"];
    const pan = names.map((name) => `${name}=${name === channel ? 1 : 0}*c0`).join("|");
    const file = made(`${channel}.wav`, "-f", "lavfi", "-i", `sine=frequency=500:duration=1,pan=5.1|${pan}`);
    const sound = await decodeOf(soundName((await takeIn(file)).sha256, "spoken"));
    // The generator's sine has an amplitude of one eighth.
    const scale = 0.125 / Math.SQRT2 / (1 + Math.SQRT2);
    expect(rms(sound[0])).toBeCloseTo(left * scale, 4);
    expect(rms(sound[1])).toBeCloseTo(right * scale, 4);
  });
});

describe("a file with more than two channels", () => {
  it("says that it was mixed down", async () => {
    const file = made("six.wav", ...SYLLABLES, "-af", "pan=5.1|FC=c0");
    const facts = await takeIn(file);
    expect(facts.kind === "voice" && facts.remark).toMatch(/5\.1 sound was mixed down to two channels/);
  });
});

describe("the sound of clips", () => {
  it.each([0, 0.5])("counts from the first picture, also where sound begins %d s before or behind it", async (late) => {
    // A beep at 1 s of the pictures, in a file whose sound begins later than its pictures.
    const file = made(
      `late ${late}.mkv`,
      ...["-f", "lavfi", "-i", "color=gray:size=64x64:rate=25:duration=3"],
      ...["-itsoffset", String(late)],
      ...[
        "-f",
        "lavfi",
        "-i",
        `aevalsrc='sin(2*PI*1000*t)*between(t,${1 - late},${1.2 - late})':s=48000:d=${3 - late}`,
      ],
      ...["-c:v", "libx264", "-c:a", "pcm_s16le"],
    );
    const { sha256 } = await takeIn(file, "any");
    const [left] = await decodeOf(soundName(sha256, "spoken"));
    const first = left.findIndex((sample) => Math.abs(sample) > 0.1);
    expect(first / 48_000).toBeCloseTo(1, 3);
  });
});

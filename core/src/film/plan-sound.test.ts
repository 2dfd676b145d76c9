import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present } from "../presence/index.ts";
import {
  addVoice,
  changeClipSound,
  changeMix,
  changeSong,
  changeVoice,
  newShowDocument,
  newShowSong,
  newSlide,
  removeSlides,
  type ShowDocument,
} from "../show/index.ts";
import {
  decibels,
  decibelsAt,
  gainAt,
  memorySource,
  type SampleSource,
  SoundMixer,
  type SoundPiece,
  type SpeechFacts,
  soundSecondsAt,
} from "../sound/index.ts";
import { steadySong } from "../testing/index.ts";
import { frameStart } from "../time/index.ts";
import { type FilmPlan, filmFacts, placeInFilm, planFilm } from "./index.ts";

const [PICTURE, CLIP, VOICE, SONG] = ["a", "b", "c", "d"].map((letter) => letter.repeat(64)) as [
  string,
  string,
  string,
  string,
];
const MUSIC = steadySong(30);
const SPOKEN: SpeechFacts = {
  durationSeconds: 6,
  stretches: [
    { startSeconds: 1, endSeconds: 2 },
    { startSeconds: 4, endSeconds: 5 },
  ],
  lufs: -22,
  noiseDecibels: -60,
};
const facts = (speech: Partial<Record<string, SpeechFacts>> = {}) =>
  filmFacts(
    () => MUSIC,
    (sha256) => ({ width: 300, height: 200, ...(sha256 === CLIP ? { durationSeconds: 8 } : {}) }),
    (sha256) =>
      ({
        [VOICE]: SPOKEN,
        [CLIP]: { ...SPOKEN, durationSeconds: 8 },
        [SONG]: { ...SPOKEN, lufs: -10, stretches: [] },
        ...speech,
      })[sha256],
  );

const base: ShowDocument = {
  ...newShowDocument("Regatta"),
  slides: ["s0", "s1", "clip", "s3", "s4"].map((id) =>
    newSlide({ id, sha256: id === "clip" ? CLIP : PICTURE, fileName: `${id}.jpg` }),
  ),
  songs: [newShowSong({ id: "song 1", sha256: SONG, fileName: "song.wav" })],
};
const withVoice = addVoice(base, { sha256: VOICE, fileName: "vows.wav" }, { slideId: "s1", seconds: 0.5 });

const startOf = (plan: FilmPlan, slideId: string): number =>
  frameStart(present(plan.slots.find((slot) => slot.slideId === slideId)).startFrame, plan.rate);
const pieceOf = (plan: FilmPlan, kind: string): SoundPiece | undefined =>
  plan.sound.pieces.find(({ owner }) => owner.kind === kind);

describe("voices in the film", () => {
  it("begin with their slide, wherever a new fit puts it", () => {
    for (const show of [withVoice, { ...withVoice, pace: { kind: "seconds" as const, seconds: 2 } }]) {
      const plan = planFilm(show, facts());
      const voice = present(pieceOf(plan, "voice"));
      expect(itemAt(voice.time, 0).filmSeconds).toBeCloseTo(startOf(plan, "s1") + 0.5, 9);
      expect(itemAt(voice.time, 0).soundSeconds).toBe(0);
      expect(lastOf(voice.time).filmSeconds - itemAt(voice.time, 0).filmSeconds).toBeCloseTo(6, 9);
    }
  });

  it("go on with the next slide when theirs is taken out, and are placed where one drops them", () => {
    expect(itemAt(removeSlides(withVoice, new Set(["s1"])).voices, 0).place.slideId).toBe("clip");
    expect(itemAt(removeSlides(withVoice, new Set(["s1", "clip", "s3", "s4"])).voices, 0).place.slideId).toBe("s0");
    const plan = planFilm(withVoice, facts());
    for (const slideId of ["s0", "s3"]) {
      const at = startOf(plan, slideId) + 0.25;
      expect(placeInFilm(plan, at)).toEqual({ slideId, seconds: 0.25 });
    }
  });

  it("are brought to one level, and the music lies under their words by what it is ducked, and nowhere else", () => {
    const plan = planFilm(withVoice, facts());
    const voice = present(pieceOf(plan, "voice"));
    const origin = itemAt(voice.time, 0).filmSeconds;
    // -22 LUFS is brought to -16.
    expect(decibels(gainAt(voice.gain, origin + 3))).toBeCloseTo(6, 2);
    expect(decibels(gainAt(present(pieceOf(plan, "song")).gain, origin))).toBeCloseTo(-6, 2);
    for (const t of [1, 1.5, 2, 4.2, 5]) expect(decibelsAt(plan.ducking, origin + t)).toBeCloseTo(-12, 6);
    expect(decibelsAt(plan.ducking, origin)).toBe(0);
    expect(decibelsAt(plan.ducking, origin + 7)).toBe(0);
    expect(decibels(gainAt(plan.sound.musicGain, origin + 1.5))).toBeCloseTo(-12, 1);
    const softer = planFilm(changeMix(withVoice, { ducking: { ...withVoice.mix.ducking, decibels: 20 } }), facts());
    expect(decibelsAt(softer.ducking, origin + 1.5)).toBeCloseTo(-20, 6);
    const muted = planFilm(changeVoice(withVoice, "voice 1", { muted: true }), facts());
    expect([muted.ducking, pieceOf(muted, "voice")]).toEqual([[], undefined]);
    expect(muted.mutedVoices).toHaveLength(1);
  });

  it("have the music's level as it was drawn instead, where it was", () => {
    const musicLevel = [
      { seconds: 1, decibels: -20 },
      { seconds: 3, decibels: -4 },
    ];
    const plan = planFilm(changeVoice(withVoice, "voice 1", { musicLevel }), facts());
    const origin = itemAt(present(pieceOf(plan, "voice")).time, 0).filmSeconds;
    expect(decibelsAt(plan.ducking, origin + 1)).toBeCloseTo(-20, 6);
    expect(decibelsAt(plan.ducking, origin + 2)).toBeCloseTo(-12, 6);
    expect(decibelsAt(plan.ducking, origin + 4.5)).toBe(0);
  });

  it("say what is wrong: no speech, beyond the end, no slide, two at once", () => {
    const silentSpeech = planFilm(withVoice, facts({ [VOICE]: { ...SPOKEN, stretches: [] } }));
    expect(silentSpeech.soundRemarks.map(({ text }) => text).join()).toMatch(/No speech was found in “vows.wav”/);
    const long = planFilm(withVoice, facts({ [VOICE]: { ...SPOKEN, durationSeconds: 400 } }));
    expect(itemAt(long.soundRemarks, 0).text).toMatch(/behind the film's end/);
    expect(lastOf(present(pieceOf(long, "voice")).time).filmSeconds).toBe(long.sound.lengthSeconds);
    expect(gainAt(present(pieceOf(long, "voice")).gain, long.sound.lengthSeconds)).toBeCloseTo(0, 6);
    const lost = planFilm(changeVoice(withVoice, "voice 1", { place: { slideId: "gone", seconds: 2 } }), facts());
    expect(itemAt(lost.soundRemarks, 0).text).toMatch(/is not in the film/);
    expect(itemAt(present(pieceOf(lost, "voice")).time, 0).filmSeconds).toBe(2);
    const twice = planFilm(
      addVoice(withVoice, { sha256: VOICE, fileName: "toast.wav" }, { slideId: "s1", seconds: 1 }),
      facts(),
    );
    expect(itemAt(twice.soundRemarks, 0).text).toMatch(/“vows.wav” and “toast.wav” speak at the same time/);
  });

  it("are left out, without a word, until they are measured", () => {
    const plan = planFilm(withVoice, facts({ [VOICE]: undefined }));
    expect([pieceOf(plan, "voice"), plan.soundRemarks]).toEqual([undefined, []]);
  });
});

describe("the sound of clips", () => {
  const heard = (change: Parameters<typeof changeClipSound>[2]): FilmPlan =>
    planFilm(changeClipSound(base, new Set(["clip"]), change), facts());

  it("is not heard unless it is asked for", () => {
    expect(pieceOf(planFilm(base, facts()), "clip")).toBeUndefined();
  });

  it.each([1, 0.5, 2])("is in step with the picture at %d times its speed, also before and behind it", (speed) => {
    const show = changeClipSound(
      {
        ...base,
        slides: base.slides.map((slide) =>
          slide.id === "clip" ? { ...slide, clip: { inSeconds: 1, outSeconds: 7, momentSeconds: null, speed } } : slide,
        ),
      },
      new Set(["clip"]),
      { kind: "beside", leadSeconds: 0.4, tailSeconds: 0.4 },
    );
    const plan = planFilm(show, facts());
    const piece = present(pieceOf(plan, "clip"));
    const slot = present(plan.slots.find(({ slideId }) => slideId === "clip"));
    const { clip } = slot;
    for (let frame = slot.startFrame; frame < slot.endFrame; frame++) {
      const shown = present(clip).startSeconds + (frame - present(clip).startFrame) * present(clip).secondsPerFrame;
      if (shown < present(clip).firstSeconds || shown > present(clip).lastSeconds) continue;
      const film = frameStart(frame, plan.rate);
      expect(soundSecondsAt(piece.time, film) - shown).toBeCloseTo(0, 6);
    }
    const [start, end] = [itemAt(piece.time, 0).filmSeconds, lastOf(piece.time).filmSeconds];
    expect(start).toBeGreaterThanOrEqual(startOf(plan, "clip") - 0.4 - 1e-9);
    expect(end).toBeLessThanOrEqual(frameStart(slot.endFrame, plan.rate) + 0.4 + 1e-9);
    expect(end - start).toBeGreaterThan(1);
  });

  it("makes the music go down where it is speech, not beside it", () => {
    expect(heard({ kind: "beside" }).ducking).toEqual([]);
    expect(heard({ kind: "speech" }).ducking.length).toBeGreaterThan(0);
    expect(heard({ kind: "speech" }).speech.length).toBeGreaterThan(0);
  });
});

describe("songs", () => {
  it("are heard no more when they are muted, but the film lies on their beats", () => {
    const plan = planFilm(changeSong(base, "song 1", { muted: true }), facts());
    expect(plan.sound.pieces).toEqual([]);
    expect(plan.slots.map(({ startFrame }) => startFrame)).toEqual(
      planFilm(base, facts()).slots.map(({ startFrame }) => startFrame),
    );
  });

  it("keep the level they were recorded at where a show does not even them", () => {
    const plan = planFilm(changeMix(base, { evensSongs: false }), facts());
    expect(gainAt(present(pieceOf(plan, "song")).gain, 10)).toBe(1);
  });
});

describe("edges", () => {
  it("never click: from silence to a constant and back, no step is larger than a fade of 8 ms makes", () => {
    const rate = 48_000;
    const trimmed = changeSong(withVoice, "song 1", { trimStartSeconds: 4.1, trimEndSeconds: 50.3 });
    const plan = planFilm(
      changeClipSound(trimmed, new Set(["clip"]), { kind: "beside", fadeInSeconds: 0, fadeOutSeconds: 0 }),
      facts(),
    );
    const one: SampleSource = memorySource([new Float32Array(60 * rate).fill(1), new Float32Array(60 * rate).fill(1)]);
    const mixer = new SoundMixer(plan.sound, rate, () => one);
    const [left] = mixer.render(0, mixer.frameCount);
    let largest = 0;
    for (let i = 1; i < left.length; i++) largest = Math.max(largest, Math.abs(itemAt(left, i) - itemAt(left, i - 1)));
    const loudest = left.reduce((most, sample) => Math.max(most, sample), 0);
    expect(loudest).toBeGreaterThan(0.9);
    expect(largest / loudest).toBeLessThan((1.2 * Math.PI) / 2 / (0.008 * rate));
  });
});

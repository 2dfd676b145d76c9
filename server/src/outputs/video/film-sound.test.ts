import { execFileSync } from "node:child_process";
import { createReadStream } from "node:fs";
import path from "node:path";
import { planFilm } from "@humming-tide/core/film";
import { itemAt, present } from "@humming-tide/core/presence";
import { addVoice, changeClipSound, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { frameStart } from "@humming-tide/core/time";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type FilmStudio, openFilmStudio } from "../../testing/film-studio.ts";
import { readStereo } from "../../testing/read-stereo.ts";
import { makeFilm } from "./index.ts";

/** A clip that flashes white and beeps at each of these seconds. */
const FLASHES = [0.6, 1.4, 2.2, 3];
let studio: FilmStudio;
let document: ShowDocument;
let film: string;

beforeAll(async () => {
  studio = await openFilmStudio(4, 20);
  const at = FLASHES.map((second) => `between(t,${second},${second + 0.199})`).join("+");
  const clip = path.join(studio.folder, "flash.mp4");
  execFileSync("ffmpeg", [
    ...["-v", "error", "-f", "lavfi", "-i", "color=black:size=320x180:rate=25:duration=4"],
    ...["-f", "lavfi", "-i", `aevalsrc='0.5*sin(2*PI*3000*t)*(${at})':s=48000:d=4`],
    ...["-vf", `drawbox=c=white:t=fill:enable='${at}'`, "-c:v", "libx264", "-c:a", "aac", "-b:a", "192k", clip],
  ]);
  const voice = path.join(studio.folder, "voice.wav");
  execFileSync("ffmpeg", [
    "-v",
    "error",
    "-f",
    "lavfi",
    "-i",
    "sine=frequency=300:duration=3,tremolo=f=4:d=0.9",
    voice,
  ]);
  const { library } = studio.studio;
  const clipFacts = await library.takeIn(createReadStream(clip), "flash.mp4");
  const voiceFacts = await library.takeIn(createReadStream(voice), "voice.wav", { wanted: "voice" });
  const [first, ...others] = studio.document.slides;
  const slides = [
    present(first),
    { ...newSlide({ id: "clip", sha256: clipFacts.sha256, fileName: "flash.mp4" }), stays: true },
    ...others,
  ];
  const plain: ShowDocument = {
    ...studio.document,
    slides,
    style: { ...studio.document.style, transition: { kind: "cut" } },
  };
  const placed = addVoice(plain, { sha256: voiceFacts.sha256, fileName: "voice.wav" }, { slideId: "s2", seconds: 0.3 });
  document = changeClipSound(placed, new Set(["clip"]), { kind: "beside", fadeInSeconds: 0, fadeOutSeconds: 0 });
  film = path.join(studio.folder, "film.mp4");
  const plan = planFilm(document, await library.filmFacts(document));
  await makeFilm({
    plan,
    store: library.store,
    title: "Regatta",
    form: { container: "mp4", quality: "fine" },
    copies: await library.prepareFilm(document, plan),
    filmPath: film,
    partsFolder: path.join(studio.folder, "parts"),
    songPathOf: (sha256) => sha256,
    signal: new AbortController().signal,
    onProgress: () => undefined,
  });
});
afterAll(() => studio.close());

describe("the sound in the film", () => {
  it("beeps where the picture flashes, as ffmpeg decodes both", async () => {
    const lights = execFileSync("ffmpeg", [
      "-v",
      "error",
      "-i",
      film,
      "-vf",
      "scale=1:1,format=gray",
      "-f",
      "rawvideo",
      "-",
    ]);
    const plan = planFilm(document, await studio.studio.library.filmFacts(document));
    const slot = present(plan.slots.find(({ slideId }) => slideId === "clip"));
    const flashes: number[] = [];
    for (let frame = slot.startFrame + 1; frame < slot.endFrame; frame++)
      if (itemAt(lights, frame) > 150 && itemAt(lights, frame - 1) < 100) flashes.push(frameStart(frame, plan.rate));
    expect(flashes.length).toBeGreaterThanOrEqual(3);
    const [sound] = await readStereo(film);
    for (const flash of flashes) {
      // The beep's own tone in half milliseconds, beside whatever the song does.
      const level = (from: number): number => toneAt(sound, Math.round(from * 48_000), 48);
      const beep = present(
        Array.from({ length: 120 }, (_, i) => flash - 0.03 + i * 0.0005).find((t) => level(t) > 0.1),
      );
      expect(Math.abs(beep - flash)).toBeLessThan(0.02);
    }
  });

  it("is as loud as was wished, with the voice over it, and its peaks stay under -1 dBTP: ffmpeg's ebur128 as judge", () => {
    const said = execFileSync("sh", [
      "-c",
      `ffmpeg -hide_banner -nostats -i "${film}" -map 0:a -af ebur128=peak=true -f null - 2>&1`,
    ]).toString();
    const summary = said.slice(said.lastIndexOf("Summary:"));
    expect(Number(present(/I:\s+(-?[\d.]+) LUFS/.exec(summary))[1])).toBeCloseTo(-14, 0);
    expect(Number(present(/Peak:\s+(-?[\d.]+) dBFS/.exec(summary))[1])).toBeLessThanOrEqual(-1);
  });
});

/** Amplitude of 3 kHz in so many samples (Goertzel). */
function toneAt(samples: Float32Array, from: number, count: number): number {
  let [re, im] = [0, 0];
  for (let i = 0; i < count; i++) {
    const sample = samples[from + i] ?? 0;
    re += sample * Math.cos((2 * Math.PI * 3000 * i) / 48_000);
    im += sample * Math.sin((2 * Math.PI * 3000 * i) / 48_000);
  }
  return (2 * Math.hypot(re, im)) / count;
}

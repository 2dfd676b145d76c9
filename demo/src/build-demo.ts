import { once } from "node:events";
import { createReadStream } from "node:fs";
import { mkdir, rename, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import { Worker } from "node:worker_threads";
import { defaultOutputs } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { itemAt } from "@humming-tide/core/presence";
import {
  AS_ABOVE,
  dividePassages,
  FIRST_CLIP_SOUND,
  FIRST_LAYOUT,
  FIRST_STYLE,
  type FilmOutput,
  hasPicture,
  type Letters,
  naturalOrder,
  newCard,
  newShowDocument,
  newShowSong,
  newSlide,
  newVoice,
  newWords,
  type ShowDocument,
  type ShowSong,
  type Slide,
  type StyleWishes,
  type VoiceTake,
} from "@humming-tide/core/show";
import { writeWav } from "@humming-tide/core/sound";
import { builtProgram, openStudio, type Studio } from "@humming-tide/server";
import sharp, { type Sharp } from "sharp";
import { CLIPS } from "./clips/clips.ts";
import { encodeClip } from "./clips/encode-clip.ts";
import { type composeSong, SONGS } from "./music/songs.ts";
import { type AlbumPicture, album, CAMERAS } from "./pictures/album.ts";
import { speakGreeting } from "./voice/greeting.ts";

const ALBUM_SEED = 7;
/** Pictures are painted and taken in this many at a time: one paints while another is encoded. */
const AT_ONCE = 3;

export interface DemoOptions {
  readonly dataFolder: string;
  /** Where the generated files are also put for trying things out; none are written without it. */
  readonly filesFolder?: string;
  /** Only the first pictures, for quick tests. */
  readonly pictureCount?: number;
  readonly songCount?: number;
  readonly onProgress?: (text: string) => void;
}

/**
 * Makes the demo: the closing night of the lantern regatta, as a data folder with shows that are
 * laid out already. It is built beside its place and moved there when whole, so a demo that was
 * broken off is made again. Under a minute on two cores.
 */
export async function buildDemo(options: DemoOptions): Promise<void> {
  const unfinished = `${options.dataFolder}.unfinished`;
  await rm(unfinished, { recursive: true, force: true });
  const studio = await openStudio(unfinished);
  try {
    await fillStudio(studio, options);
  } finally {
    await studio.close();
  }
  await rm(options.dataFolder, { recursive: true, force: true });
  await rename(unfinished, options.dataFolder);
}

async function fillStudio(
  studio: Studio,
  { filesFolder, pictureCount, songCount, onProgress }: DemoOptions,
): Promise<void> {
  const say = onProgress ?? ((): void => undefined);
  const pictures = album(ALBUM_SEED).slice(0, pictureCount);
  // Side by side: while one is painted or composed here, others are decoded, listened to and filmed
  // elsewhere.
  const [{ slides, moreOfTheSame }, songs, clips, voice] = await Promise.all([
    paintPictures(studio, pictures, filesFolder, say),
    playSongs(studio, songCount ?? SONGS.length, filesFolder, say),
    filesFolder ? makeClips(studio, filesFolder, say) : [],
    filesFolder ? speak(studio, filesFolder) : null,
  ]);
  await makeShows(studio, { pictures, slides, moreOfTheSame, clips, songs, voice });
}

async function paintPictures(
  studio: Studio,
  pictures: readonly AlbumPicture[],
  filesFolder: string | undefined,
  say: (text: string) => void,
): Promise<Pick<Material, "slides" | "moreOfTheSame">> {
  const slides: Slide[] = [];
  const moreOfTheSame: Slide[] = [];
  let next = 0;
  const work = async (): Promise<void> => {
    for (let index = next++; index < pictures.length; index = next++) {
      const picture = itemAt(pictures, index);
      const jpeg = await encodePicture(picture);
      await keepFile(filesFolder, "pictures", picture.fileName, jpeg);
      slides[index] = await takeIn(studio, jpeg, picture.fileName);
      for (const [fileName, twin] of await twinsOf(picture, jpeg)) {
        await keepFile(filesFolder, "more of the same", fileName, twin);
        moreOfTheSame.push(await takeIn(studio, twin, fileName));
      }
      say(`Painting the regatta: ${index + 1} of ${pictures.length}`);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return { slides, moreOfTheSame: moreOfTheSame.sort((a, b) => naturalOrder(a.fileName, b.fileName)) };
}

async function playSongs(
  studio: Studio,
  songCount: number,
  filesFolder: string | undefined,
  say: (text: string) => void,
): Promise<ShowSong[]> {
  const songs: ShowSong[] = [];
  for (const [index, plan] of SONGS.slice(0, songCount).entries()) {
    say(`Playing "${plan.name}"`);
    const { sound, truth } = await composed(index);
    const wav = writeWav([sound.left, sound.right], sound.sampleRate, 16);
    const fileName = `${plan.name}.wav`;
    await keepFile(filesFolder, "music", fileName, wav);
    await keepFile(filesFolder, "music", `${plan.name}.truth.json`, Buffer.from(JSON.stringify(truth, null, 1)));
    const { sha256 } = await studio.library.takeIn(Readable.from([wav]), fileName);
    songs.push(newShowSong({ id: "song 1", sha256, fileName }));
  }
  return songs;
}

/** A song is composed on a thread of its own: painting goes on meanwhile. */
async function composed(index: number): Promise<ReturnType<typeof composeSong>> {
  const worker = new Worker(builtProgram(new URL("./music/compose-worker.ts", import.meta.url)), { workerData: index });
  const [song] = (await once(worker, "message")) as [ReturnType<typeof composeSong>];
  return song;
}

async function takeIn(studio: Studio, content: Uint8Array, fileName: string): Promise<Slide> {
  const { sha256 } = await studio.library.takeIn(Readable.from([content]), fileName);
  return newSlide({ id: `slide ${fileName}`, sha256, fileName });
}

/** Films the clips, with their truth beside them, and takes them in. */
async function makeClips(studio: Studio, filesFolder: string, say: (text: string) => void): Promise<Slide[]> {
  const folder = path.join(filesFolder, "clips");
  await mkdir(folder, { recursive: true });
  const slides: Slide[] = [];
  for (const clip of CLIPS) {
    say(`Filming "${clip.fileName}"`);
    const place = path.join(folder, clip.fileName);
    await encodeClip(clip, place);
    const { sha256 } = await studio.library.takeIn(createReadStream(place), clip.fileName);
    slides.push(newSlide({ id: `slide ${clip.fileName}`, sha256, fileName: clip.fileName }));
  }
  const moments = CLIPS.map(({ fileName, seconds, momentSeconds }) => ({ fileName, seconds, momentSeconds }));
  await keepFile(filesFolder, "clips", "clips.truth.json", Buffer.from(JSON.stringify(moments, null, 1)));
  return slides;
}

async function speak(studio: Studio, filesFolder: string): Promise<VoiceTake> {
  const { samples, sampleRate, spoken } = speakGreeting();
  const fileName = "greeting.wav";
  const wav = writeWav([samples, samples], sampleRate, 16);
  await keepFile(filesFolder, "voice", fileName, wav);
  await keepFile(filesFolder, "voice", "greeting.truth.json", Buffer.from(JSON.stringify({ spoken }, null, 1)));
  const { sha256 } = await studio.library.takeIn(Readable.from([wav]), fileName, { wanted: "voice" });
  return { sha256, fileName };
}

interface Material {
  readonly pictures: readonly AlbumPicture[];
  readonly slides: readonly Slide[];
  /** Nearly equal takes of some pictures, and one that is not sharp. */
  readonly moreOfTheSame: readonly Slide[];
  readonly clips: readonly Slide[];
  readonly songs: readonly ShowSong[];
  readonly voice: VoiceTake | null;
}

/** The phone's clock is put right in every show. */
const CLOCK_OFFSETS = Object.fromEntries(
  CAMERAS.filter(({ fastMinutes }) => fastMinutes !== 0).map(({ make, model, fastMinutes }) => [
    `${make} ${model}`,
    -60 * fastMinutes,
  ]),
);
const EVENT = { event: "Lantern regatta", date: "2031-06-21", clockOffsets: CLOCK_OFFSETS };
const HEROES = new Set([
  "04 painting 4.jpg",
  "19 lanterns 3.jpg",
  "31 race 5.jpg",
  "38 prize 2.jpg",
  "58 fireworks 7.jpg",
]);
const CAPTIONS: Readonly<Record<string, string>> = {
  "01 painting 1.jpg": "The last coat of paint",
  "38 prize 2.jpg": "The lantern cup goes to the north quay",
};

/** Words on pictures of the main show. */
const WORDS: Readonly<Record<string, Slide["words"]>> = {
  "02 painting 2.jpg": [newWords("title", "Closing night\nThe lantern regatta, 21 June 2031")],
  "11 crews 3.jpg": [newWords("lower-third", "Crew of the Firefly\nfirst across the line")],
  "60 fireworks 9.jpg": [newWords("end", "Until next year\nThe regatta committee 🏮")],
};

/** What passages of the main show do differently: each as its hour of the evening. */
const STYLES: Readonly<Record<string, Partial<StyleWishes>>> = {
  "The crews": {
    transition: { kind: "wipe", length: { unit: "beats", count: 1 }, direction: "right", softness: 0.3 },
  },
  "Lanterns lit": {
    transition: { kind: "gradient", length: { unit: "beats", count: 2 }, direction: "up" },
    overlay: { kind: "glow", strength: 0.4 },
  },
  "The race": {
    transition: { kind: "push", length: { unit: "seconds", count: 0.4 }, direction: "left" },
    move: { kind: "rule", strength: 0.8, withMusic: false },
  },
  "The prize": {
    transition: { kind: "iris", length: { unit: "beats", count: 2 } },
    move: { kind: "in", strength: 0.6, withMusic: true },
    edge: { kind: "border", colour: "#f3e9d4", width: 0.005 },
  },
  "Dance on the quay": {
    transition: { kind: "vary", length: { unit: "beats", count: 1 }, kinds: ["dissolve", "page-turn", "zoom", "push"] },
    look: { kind: "warm", strength: 0.6, levels: 0 },
    overlay: { kind: "confetti", strength: 0.35 },
  },
  Fireworks: { transition: { kind: "light-flash", length: { unit: "beats", count: 1 } } },
};

/** Four pictures of the dance stand on one slide. */
function withLayout(slides: readonly Slide[]): Slide[] {
  const [first, ...others] = slides.slice(1, 5);
  if (!first || others.length < 3) return [...slides];
  const more = others
    .filter(hasPicture)
    .map(({ sha256, fileName, turn, subject }) => ({ sha256, fileName, turn, subject }));
  const together: Slide = { ...first, more, layout: { ...FIRST_LAYOUT, kind: "large-left" } };
  return [itemAt(slides, 0), together, ...slides.slice(5)];
}

const RACE_LETTERS: Letters = { ...FIRST_STYLE.letters, font: "Oswald", weight: 700 };
const TITLE_CARD = newCard(
  "card title",
  [newWords("title", "The race\nfor the crews of the north quay")],
  "#0d1f26",
  5,
);
const CREDITS = newCard(
  "card credits",
  [
    newWords(
      "credits",
      "Boats:\nFirefly\nWill-o’-the-wisp\nHarbour Moth\n\nLanterns:\nThe paper mill\n\nMusic:\nQuay Street Band",
    ),
  ],
  "#0d1f26",
  10,
);

/** The main show is made last, so that it stands first on the shelf. */
async function makeShows(studio: Studio, material: Material): Promise<void> {
  const { pictures, slides, moreOfTheSame, clips, songs, voice } = material;
  const show = async (title: string, own: readonly Slide[], more: Partial<ShowDocument>): Promise<void> => {
    await studio.shows.create(title, { ...newShowDocument(title), ...EVENT, slides: [...own], ...more });
  };
  await show("All of the night, not culled yet", [...slides.slice(17, 45), ...moreOfTheSame], {
    client: "North quay rowing club",
  });
  if (songs[2]) {
    await show("Dance on the quay", withLayout([...slides.slice(41, 51), ...clips.slice(2)]), {
      songs: [songs[2]],
      pace: { kind: "beats", count: 12 },
    });
  }
  if (songs[1]) {
    const heard = clips.slice(0, 2).map((clip): Slide => ({ ...clip, sound: { ...FIRST_CLIP_SOUND, kind: "beside" } }));
    const race = [TITLE_CARD, ...slides.slice(17, 45), ...heard, CREDITS];
    await show("The race, for the crews", race, {
      songs: [songs[1]],
      style: { ...FIRST_STYLE, transition: { kind: "cut" }, letters: RACE_LETTERS },
      pace: { kind: "bars", count: 1 },
      client: "North quay rowing club",
    });
  }
  const judged = slides.map((slide) => ({
    ...slide,
    hero: HEROES.has(slide.fileName),
    caption: CAPTIONS[slide.fileName] ?? "",
    words: WORDS[slide.fileName] ?? [],
    // Words want to be read.
    length: slide.fileName in WORDS || slide.fileName in CAPTIONS ? { seconds: 5, locked: false } : null,
  }));
  const whole = { ...newShowDocument("Closing night of the lantern regatta"), slides: judged };
  const chapters = pictures
    .map(({ chapter }, index) => ({
      name: chapter,
      slideId: itemAt(slides, index).id,
      first: pictures[index - 1]?.chapter !== chapter,
    }))
    .filter(({ first }) => first);
  const { passages, slides: divided } = dividePassages(whole, chapters);
  const styled = passages.map((passage) => ({ ...passage, style: { ...AS_ABOVE, ...STYLES[passage.name] } }));
  // The greeting begins with the third picture, when the title has gone.
  const voices = voice ? [newVoice("voice 1", voice, { slideId: divided[2]?.id ?? null, seconds: 0.4 })] : [];
  await show(whole.title, divided, {
    passages: styled,
    voices,
    songs: songs.slice(0, 1),
    client: "The regatta committee",
    outputs: await mainOutputs(studio, songs.slice(0, 1)),
  });
}

/** What the regatta committee is given. */
async function mainOutputs(studio: Studio, songs: ShowDocument["songs"]): Promise<FilmOutput[]> {
  const show = { ...newShowDocument("Outputs"), songs: [...songs] };
  const analyses = new Map<string, MusicAnalysis>();
  for (const { sha256 } of songs) analyses.set(sha256, await studio.library.analysis(sha256));
  return defaultOutputs(show, (sha256) => analyses.get(sha256))
    .filter(({ name }) => name !== "4K" && name !== "Square" && name !== "4:5")
    .map((output, index) => ({ ...output, id: `output ${index + 1}` }));
}

/** A JPEG as a camera writes it: pixels as the sensor lay, orientation and time in its metadata. */
async function encodePicture(picture: AlbumPicture): Promise<Buffer> {
  const { canvas } = picture.paint();
  const turnBack = { 1: 0, 3: 180, 6: 270, 8: 90 }[picture.orientation];
  const upright = sharp(canvas.data(), { raw: { width: picture.width, height: picture.height, channels: 4 } });
  return withCameraFacts(upright.removeAlpha().rotate(turnBack), picture, picture.orientation);
}

function withCameraFacts(pixels: Sharp, picture: AlbumPicture, orientation: number): Promise<Buffer> {
  const { make, model } = picture.camera;
  return pixels
    .withExif({ IFD0: { Make: make, Model: model }, IFD2: { DateTimeOriginal: picture.capturedAt } })
    .withMetadata({ orientation })
    .jpeg({ quality: 88 })
    .toBuffer();
}

/**
 * The same moment again, as people press the button more than once: the hand moved a little; and
 * one that is not sharp.
 */
async function twinsOf(picture: AlbumPicture, jpeg: Buffer): Promise<[fileName: string, jpeg: Buffer][]> {
  const stem = picture.fileName.replace(/\.jpg$/, "");
  const upright = await sharp(jpeg).autoOrient().toBuffer({ resolveWithObject: true });
  const { width, height } = upright.info;
  const moved = (by: number): Promise<Buffer> =>
    withCameraFacts(
      sharp(upright.data).extract({ left: by, top: by, width: width - 2 * by, height: height - 2 * by }),
      picture,
      1,
    );
  if (stem.endsWith("race 3")) {
    return Promise.all(
      [6, 11, 17, 22].map(async (by, index) => [`${stem} again ${index + 1}.jpg`, await moved(by)] as [string, Buffer]),
    );
  }
  if (stem.endsWith("lanterns 5")) {
    const blurred = sharp(upright.data).blur(9);
    return [[`${stem} not sharp.jpg`, await withCameraFacts(blurred, picture, 1)]];
  }
  return [];
}

async function keepFile(folder: string | undefined, kind: string, name: string, content: Uint8Array): Promise<void> {
  if (!folder) return;
  await mkdir(path.join(folder, kind), { recursive: true });
  await writeFile(path.join(folder, kind, name), content);
}

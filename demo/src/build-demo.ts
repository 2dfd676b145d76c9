import { mkdir, rename, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import { newShowDocument, type ShowDocument, type Slide } from "@humming-tide/core/show";
import { openStudio, type Studio } from "@humming-tide/server";
import sharp from "sharp";
import { CLIPS } from "./clips/clips.ts";
import { encodeClip } from "./clips/encode-clip.ts";
import { composeSong, SONGS } from "./music/songs.ts";
import { writeWav } from "./music/wav.ts";
import { type AlbumPicture, album } from "./pictures/album.ts";
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
 * Makes the demo: the closing night of the lantern regatta, as a data folder with shows that are laid out already. It is built beside
 * its place and moved there when whole, so a demo that was broken off is made again. About half a minute.
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
  const slides: Slide[] = [];
  let next = 0;
  const work = async (): Promise<void> => {
    for (let index = next++; index < pictures.length; index = next++) {
      const picture = pictures[index]!;
      const jpeg = await encodePicture(picture);
      await keepFile(filesFolder, "pictures", picture.fileName, jpeg);
      const { sha256 } = await studio.library.takeIn(Readable.from([jpeg]), picture.fileName);
      slides[index] = { id: `slide-${index + 1}`, sha256, fileName: picture.fileName, landingLockSeconds: null };
      say(`Painting the regatta: ${index + 1} of ${pictures.length}`);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));

  const songs: NonNullable<ShowDocument["song"]>[] = [];
  for (const plan of SONGS.slice(0, songCount)) {
    say(`Playing "${plan.name}"`);
    const { sound, truth } = composeSong(plan);
    const wav = writeWav(sound);
    const fileName = `${plan.name}.wav`;
    await keepFile(filesFolder, "music", fileName, wav);
    await keepFile(filesFolder, "music", `${plan.name}.truth.json`, Buffer.from(JSON.stringify(truth, null, 1)));
    const { sha256 } = await studio.library.takeIn(Readable.from([wav]), fileName);
    songs.push({ sha256, fileName });
  }
  if (filesFolder) await writeClipsAndVoice(filesFolder, say);
  await makeShows(studio, slides, songs);
}

/** Clips and a spoken greeting, with their truth beside them. */
async function writeClipsAndVoice(filesFolder: string, say: (text: string) => void): Promise<void> {
  await mkdir(path.join(filesFolder, "clips"), { recursive: true });
  for (const clip of CLIPS) {
    say(`Filming "${clip.fileName}"`);
    await encodeClip(clip, path.join(filesFolder, "clips", clip.fileName));
  }
  const moments = CLIPS.map(({ fileName, seconds, momentSeconds }) => ({ fileName, seconds, momentSeconds }));
  await keepFile(filesFolder, "clips", "clips.truth.json", Buffer.from(JSON.stringify(moments, null, 1)));
  const { samples, sampleRate, spoken } = speakGreeting();
  await keepFile(filesFolder, "voice", "greeting.wav", writeWav({ left: samples, right: samples, sampleRate }));
  await keepFile(filesFolder, "voice", "greeting.truth.json", Buffer.from(JSON.stringify({ spoken }, null, 1)));
}

/** The main show is made last, so that it stands first on the shelf. */
async function makeShows(
  studio: Studio,
  slides: readonly Slide[],
  songs: readonly NonNullable<ShowDocument["song"]>[],
): Promise<void> {
  const show = async (
    title: string,
    from: number,
    to: number,
    song: ShowDocument["song"],
    more: Partial<ShowDocument> = {},
  ): Promise<void> => {
    await studio.shows.create(title, { ...newShowDocument(title), slides: slides.slice(from, to), song, ...more });
  };
  if (songs[2]) await show("Dance on the quay", 41, 51, songs[2], { pace: { kind: "beats", count: 12 } });
  if (songs[1])
    await show("The race, for the crews", 17, 45, songs[1], { transition: { kind: "cut" }, pace: { kind: "bar" } });
  await show("Closing night of the lantern regatta", 0, slides.length, songs[0]!);
}

/** A JPEG as a camera writes it: pixels as the sensor lay, orientation and time in its metadata. */
async function encodePicture(picture: AlbumPicture): Promise<Buffer> {
  const { canvas } = picture.paint();
  const turnBack = { 1: 0, 3: 180, 6: 270, 8: 90 }[picture.orientation];
  return sharp(canvas.data(), { raw: { width: picture.width, height: picture.height, channels: 4 } })
    .removeAlpha()
    .rotate(turnBack)
    .withExif({ IFD2: { DateTimeOriginal: picture.capturedAt } })
    .withMetadata({ orientation: picture.orientation })
    .jpeg({ quality: 88 })
    .toBuffer();
}

async function keepFile(folder: string | undefined, kind: string, name: string, content: Uint8Array): Promise<void> {
  if (!folder) return;
  await mkdir(path.join(folder, kind), { recursive: true });
  await writeFile(path.join(folder, kind, name), content);
}

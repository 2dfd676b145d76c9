import { writeFile } from "node:fs/promises";
import path from "node:path";
import type { PictureTrack, Scratch } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import { type PlayerWords, sheetsOf } from "@humming-tide/core/web-player";
import { WordImages } from "@humming-tide/core/words";
import { type Canvas, createCanvas } from "@napi-rs/canvas";
import { FilmFonts } from "../../fonts/film-fonts.ts";
import { surfaceOf } from "../video/picture-cache.ts";

/**
 * Writes the words of a film, drawn in the film's own pixels, as PNG files with alpha into a
 * folder. Throws `bad-font`, and the signal's reason.
 */
export async function writePlayerWords(
  track: PictureTrack,
  folder: string,
  signal: AbortSignal,
): Promise<PlayerWords[]> {
  const fonts = new FilmFonts();
  const images = new WordImages<Canvas>(fonts, 1, canvasOf);
  const words: PlayerWords[] = [];
  let count = 0;
  for (const sheet of sheetsOf(track)) {
    signal.throwIfAborted();
    await fonts.preload(sheet);
    const drawn: PlayerWords["drawn"][number][] = [];
    for (const index of sheet.keys()) {
      const { pieces, height } = present(images.get(sheet, index, track.size));
      const files: PlayerWords["drawn"][number]["pieces"][number][] = [];
      for (const { image, ...piece } of pieces) {
        const file = `words/${String(++count).padStart(4, "0")}.png`;
        await writeFile(path.join(folder, file), await image.image.encode("png"));
        files.push({ file, width: image.width, height: image.height, ...piece });
      }
      drawn.push({ height, pieces: files });
    }
    words.push({ sheet, drawn });
  }
  return words;
}

function canvasOf(width: number, height: number): Scratch<Canvas> {
  const image = createCanvas(width, height);
  return { surface: surfaceOf(image), image, width, height };
}

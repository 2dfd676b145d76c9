import { createReadStream } from "node:fs";
import { writeFile } from "node:fs/promises";
import path from "node:path";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { openStudio, type Studio } from "../start-server.ts";
import { clickSong, stripedJpeg, temporaryFolder } from "./index.ts";

export interface FilmStudio {
  readonly folder: string;
  readonly studio: Studio;
  readonly songPath: string;
  /** A show of the pictures and the song, small enough to be exported in seconds. */
  readonly document: ShowDocument;
  readonly close: () => Promise<void>;
}

/**
 * A studio with so many pictures, some wide, some upright, so that fills are drawn too, and a song
 * of clicks.
 */
export async function openFilmStudio(pictureCount: number, songSeconds: number): Promise<FilmStudio> {
  const place = await temporaryFolder();
  const studio = await openStudio(path.join(place.folder, "data"));
  const songPath = path.join(place.folder, "song.wav");
  await writeFile(songPath, clickSong(songSeconds, 118, 0.613).wav);
  const song = await studio.library.takeIn(createReadStream(songPath), "song.wav");
  const slides: ShowDocument["slides"] = [];
  for (let i = 0; i < pictureCount; i++) {
    const file = path.join(place.folder, `${i}.jpg`);
    await writeFile(file, await stripedJpeg(i, i % 3 === 1 ? 240 : 480, 320));
    const { sha256 } = await studio.library.takeIn(createReadStream(file), `${i}.jpg`);
    slides.push(newSlide({ id: `s${i}`, sha256, fileName: `${i}.jpg` }));
  }
  return {
    folder: place.folder,
    studio,
    songPath,
    document: {
      ...newShowDocument("Regatta"),
      size: { width: 320, height: 180 },
      slides,
      // Each picture once, however short the song is.
      pace: { kind: "seconds", seconds: songSeconds / pictureCount },
      songs: [newShowSong({ id: "song 1", sha256: song.sha256, fileName: "song.wav" })],
    },
    close: async () => {
      await studio.close();
      await place.remove();
    },
  };
}

import { readFile } from "node:fs/promises";
import type { Readable } from "node:stream";
import type { MediaFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { FilmFacts } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import type { ShowDocument } from "@humming-tide/core/show";
import { mediaStore } from "../store/media-store.ts";
import type { ContentStore, ReceivedFile } from "./content-store.ts";
import { identify } from "./identify.ts";
import { takeInPicture } from "./picture-intake.ts";
import { SONG_FILES, takeInSong } from "./song-intake.ts";

/** Pictures and songs: taking them in, and their facts. */
export class MediaLibrary {
  readonly store: ContentStore;

  constructor(store: ContentStore) {
    this.store = store;
  }

  /**
   * Takes in one file: received, checked by content, decoded, derived files made, facts saved. The same content again costs only the
   * reading and gives the same facts. A refused file leaves nothing behind.
   */
  async takeIn(stream: Readable, fileName: string): Promise<MediaFacts> {
    const received = await this.store.receive(stream);
    try {
      const known = await mediaStore.get(received.sha256);
      if (known && (await this.store.has(this.store.originalPath(received.sha256)))) return { ...known, fileName };
      const facts = await this.#derive(received, fileName);
      await this.store.accept(received);
      await mediaStore.put(facts);
      return facts;
    } finally {
      await this.store.discard(received);
    }
  }

  async #derive(received: ReceivedFile, fileName: string): Promise<MediaFacts> {
    const { kind, mime } = await identify(received.path, received.bytes);
    const common = { sha256: received.sha256, fileName, bytes: received.bytes, mime };
    let facts: MediaFacts | null = null;
    await this.store.derive(received.sha256, async (folder) => {
      if (kind === "picture") {
        facts = { ...common, kind, ...(await takeInPicture(received.path, folder)) };
        return;
      }
      const { analysis, remark } = await takeInSong(received.path, folder);
      const { durationSeconds, steady, tempoBpm } = analysis;
      facts = { ...common, kind, durationSeconds, steady, tempoBpm, remark };
    });
    return facts!;
  }

  async analysis(sha256: string): Promise<MusicAnalysis> {
    const text = await readFile(this.store.derivedPath(sha256, SONG_FILES.analysis), "utf8").catch((cause: unknown) => {
      throw new HummingTideError(
        "song-missing",
        "The song of this show is not in the data folder any more. Bring it in again.",
        { cause },
      );
    });
    return JSON.parse(text) as MusicAnalysis;
  }

  /** The facts that planFilm needs for a show. */
  async filmFacts(document: ShowDocument): Promise<FilmFacts> {
    if (!document.song)
      throw new HummingTideError("no-song", "A film needs a song to lay its pictures on, and this show has none yet.");
    const facts = await mediaStore.getMany(document.slides.map((slide) => slide.sha256));
    return {
      song: await this.analysis(document.song.sha256),
      pictureSize: (sha256) => {
        const picture = facts.get(sha256);
        return picture?.kind === "picture" ? picture : undefined;
      },
    };
  }
}

import { readFile } from "node:fs/promises";
import { availableParallelism } from "node:os";
import path from "node:path";
import type { Readable } from "node:stream";
import { isSeen, type MediaFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { type FilmFacts, type FilmPlan, factsOf, type PlainFacts, type SeenMedia } from "@humming-tide/core/film";
import { ANALYSIS_VERSION, type MusicAnalysis, packPeaks } from "@humming-tide/core/music";
import { drawnPicture, type PictureTrack, parseDrawnPicture } from "@humming-tide/core/picture";
import { heardSounds, namedGraphics, namedPictures, type ShowDocument } from "@humming-tide/core/show";
import { parseSoundName, type SpeechFacts, soundName } from "@humming-tide/core/sound";
import pLimit from "p-limit";
import sharp from "sharp";
import { mediaStore } from "../store/media-store.ts";
import { proxyStore } from "../store/proxy-store.ts";
import { listen } from "../workers/listen.ts";
import { takeInClip } from "./clip-intake.ts";
import type { ContentStore, ReceivedFile } from "./content-store.ts";
import { downmixRemark } from "./downmix.ts";
import { COPY_FILE, type FilmCopy, filmCopies } from "./film-copies.ts";
import { identify } from "./identify.ts";
import {
  GRAPHIC_FILES,
  graphicFolder,
  measureSubject,
  PICTURE_FILES,
  turnPictureFiles,
  writeFilmCopy,
  writeGraphic,
} from "./picture-files.ts";
import { decodePicture, takeInPicture } from "./picture-intake.ts";
import { SONG_FILES, takeInSong } from "./song-intake.ts";
import { heardIn, measureSong, SPOKEN_FILES, writeCleaned, writeSpoken } from "./spoken-sound.ts";

/** What a file that comes in is for: sound is a song unless it is wanted as a voice. */
type Wanted = "any" | "voice";

/** Pictures, clips, songs and voices: taking them in, and their facts. */
export class MediaLibrary {
  readonly store: ContentStore;
  /** Files are received as they come, but decoded only as many at a time as there are cores: memory stays flat. */
  readonly #decoding = pLimit(Math.max(2, availableParallelism()));
  readonly #arriving = new Map<string, Promise<MediaFacts>>();
  readonly #making = new Map<string, Promise<void>>();
  /** Songs that this version of the analysis has heard or is hearing. */
  readonly #hearing = new Map<string, Promise<void>>();

  constructor(store: ContentStore) {
    this.store = store;
  }

  /**
   * Takes in one file: received, checked by content, decoded, derived files made, facts saved. The same content again costs only the
   * reading and gives the same facts. A refused file leaves nothing behind. Throws `sum-wrong` where the content does not have an
   * expected hash, and what identifying and decoding throw.
   */
  async takeIn(
    stream: Readable,
    fileName: string,
    expectedSha256?: string,
    wanted: Wanted = "any",
  ): Promise<MediaFacts> {
    const received = await this.store.receive(stream);
    try {
      if (expectedSha256 !== undefined && received.sha256 !== expectedSha256) {
        throw new HummingTideError("sum-wrong", `"${fileName}" does not have the content that it should have.`);
      }
      const facts = await this.#onceFor(received, fileName, wanted);
      return { ...facts, fileName };
    } finally {
      await this.store.discard(received);
    }
  }

  /** The same content arriving twice at the same time is decoded once. */
  #onceFor(received: ReceivedFile, fileName: string, wanted: Wanted): Promise<MediaFacts> {
    const { sha256 } = received;
    const arriving = this.#arriving.get(sha256) ?? this.#accept(received, fileName, wanted);
    this.#arriving.set(sha256, arriving);
    return arriving.finally(() => {
      if (this.#arriving.get(sha256) === arriving) this.#arriving.delete(sha256);
    });
  }

  async #accept(received: ReceivedFile, fileName: string, wanted: Wanted): Promise<MediaFacts> {
    const known = await mediaStore.get(received.sha256);
    const isKnown = known && (await this.store.has(this.store.originalPath(received.sha256)));
    // A voice that comes again as a song is one from now on; a song, or a clip, can be heard as a voice as it is.
    if (isKnown && (known.kind !== "voice" || wanted === "voice")) return known;
    const facts = await this.#decoding(() => this.#derive(received, fileName, wanted));
    await this.store.accept(received);
    await mediaStore.put(facts);
    if (facts.kind === "clip") await proxyStore.ask(facts.sha256, { again: true });
    return facts;
  }

  async #derive(received: ReceivedFile, fileName: string, wanted: Wanted): Promise<MediaFacts> {
    const { kind, mime } = await identify(received.path, received.bytes);
    const common = { sha256: received.sha256, fileName, bytes: received.bytes, mime };
    if (kind === "song" && wanted === "voice") {
      const name = soundName(received.sha256, "spoken");
      await this.store.derive(name, (folder) => writeSpoken(received.path, folder, "voice"));
      const { durationSeconds, stretches } = await heardIn(this.store.derivedPath(name, SPOKEN_FILES.speech));
      const remark =
        stretches.length === 0
          ? "No speech was found in it: the music will not make room for it."
          : await downmixRemark(received.path);
      return { ...common, kind: "voice", durationSeconds, remark };
    }
    let facts: MediaFacts | null = null;
    await this.store.derive(received.sha256, async (folder) => {
      if (kind === "picture") {
        facts = { ...common, kind, ...(await takeInPicture(received.path, mime, folder)) };
      } else if (kind === "clip") {
        facts = { ...common, kind, ...(await takeInClip(received.path, folder)) };
      } else {
        const { analysis, remark } = await takeInSong(received.path, folder);
        const { durationSeconds, steady, tempoBpm } = analysis;
        facts = { ...common, kind, durationSeconds, steady, tempoBpm, remark };
      }
    });
    return facts!;
  }

  /**
   * Makes sure that the files of a drawn picture are there: those of a turned one are made on first use. Throws `media-unknown` where the
   * picture itself is missing.
   */
  async ensureDrawn(name: string): Promise<void> {
    const parsed = parseDrawnPicture(name);
    if (!parsed) throw new HummingTideError("media-unknown", "There is no such picture.");
    const { sha256, turn } = parsed;
    if (turn === 0 || (await this.store.has(this.store.derivedPath(name, PICTURE_FILES.fill)))) return;
    if (!(await this.store.has(this.store.derivedPath(sha256, PICTURE_FILES.working)))) {
      throw new HummingTideError("media-unknown", "The picture is not in the data folder any more.");
    }
    await this.#once(name, () =>
      this.store.derive(name, (folder) => turnPictureFiles(this.store.derivedPath(sha256, ""), folder, turn)),
    );
  }

  /** Makes sure that a picture's graphic is there: it is made on first use. Throws `media-unknown`. */
  async ensureGraphic(sha256: string): Promise<string> {
    const name = graphicFolder(sha256);
    const place = this.store.derivedPath(name, GRAPHIC_FILES.graphic);
    if (await this.store.has(place)) return place;
    const original = this.store.originalPath(sha256);
    if (!(await this.store.has(original)))
      throw new HummingTideError("media-unknown", "The graphic is not in the data folder any more. Choose it again.");
    await this.#once(name, () => this.store.derive(name, (folder) => writeGraphic(original, folder)));
    return place;
  }

  /**
   * Makes sure that a decode is there that is heard in a film (core/sound, soundName): that of a song was made when it came in, those of voices and clips are made on first use. Throws `media-unknown` where the file is not there, and what
   * decoding throws.
   */
  async ensureSound(name: string): Promise<void> {
    const parsed = parseSoundName(name);
    if (!parsed) throw new HummingTideError("media-unknown", "There is no such sound.");
    const { sha256, version } = parsed;
    if (await this.store.has(this.store.derivedPath(name, SPOKEN_FILES.sound))) return;
    const facts = await mediaStore.get(sha256);
    const original = this.store.originalPath(sha256);
    if (version === "song" || !facts || !(await this.store.has(original)))
      throw new HummingTideError("media-unknown", "The sound is not in the data folder any more. Bring it in again.");
    if (version === "spoken") {
      const kind = facts.kind === "clip" ? "clip" : "voice";
      await this.#once(name, () => this.store.derive(name, (folder) => writeSpoken(original, folder, kind)));
      return;
    }
    const spoken = soundName(sha256, "spoken");
    await this.ensureSound(spoken);
    const from = this.store.derivedPath(spoken, SPOKEN_FILES.sound);
    await this.#once(name, () => this.store.derive(name, (folder) => writeCleaned(from, folder)));
  }

  /** Where someone speaks in a voice or a clip, and how loud it or a song is; measured on first use. Throws what `ensureSound` throws. */
  async speech(sha256: string): Promise<SpeechFacts> {
    const facts = await mediaStore.get(sha256);
    if (facts?.kind === "clip" && facts.sound === null)
      return { durationSeconds: facts.durationSeconds, stretches: [], lufs: null, noiseDecibels: null };
    if (facts?.kind !== "song") {
      const name = soundName(sha256, "spoken");
      await this.ensureSound(name);
      return heardIn(this.store.derivedPath(name, SPOKEN_FILES.speech));
    }
    const place = this.store.derivedPath(sha256, SPOKEN_FILES.speech);
    if (!(await this.store.has(place)))
      await this.#once(`${sha256} speech`, async () => {
        const heard = await measureSong(this.store.derivedPath(sha256, SONG_FILES.sound));
        await this.store.replaceDerived(sha256, SPOKEN_FILES.speech, JSON.stringify(heard));
      });
    return heardIn(place);
  }

  /** What several ask for at the same time is made once. */
  async #once(name: string, make: () => Promise<void>): Promise<void> {
    const making = this.#making.get(name) ?? this.#decoding(make);
    this.#making.set(name, making);
    await making.finally(() => this.#making.delete(name));
  }

  /** What was heard in a song, by this version of the analysis. Throws `song-missing`. */
  async analysis(sha256: string): Promise<MusicAnalysis> {
    await this.ensureHeard(sha256);
    return await this.#storedAnalysis(sha256);
  }

  /**
   * Makes sure that a song was heard by this version of the analysis: one that an older version heard is listened to again, once.
   * A person's corrections of the grid are kept apart from it and stay. Throws `song-missing`.
   */
  async ensureHeard(sha256: string): Promise<void> {
    const hearing = this.#hearing.get(sha256) ?? this.#hearAgainIfOld(sha256);
    this.#hearing.set(sha256, hearing);
    // A song once heard stays in the list, so that it is looked up once; a failure is tried again.
    await hearing.catch((error: unknown) => {
      this.#hearing.delete(sha256);
      throw error;
    });
  }

  async #hearAgainIfOld(sha256: string): Promise<void> {
    if ((await this.#storedAnalysis(sha256)).version === ANALYSIS_VERSION) return;
    const { analysis, peaks } = await this.#decoding(() => listen(this.store.derivedPath(sha256, SONG_FILES.sound)));
    // The analysis comes last: its version says that both are there.
    await this.store.replaceDerived(sha256, SONG_FILES.peaks, packPeaks(peaks));
    await this.store.replaceDerived(sha256, SONG_FILES.analysis, JSON.stringify(analysis));
    const facts = await mediaStore.get(sha256);
    const { steady, tempoBpm } = analysis;
    if (facts?.kind === "song") await mediaStore.put({ ...facts, steady, tempoBpm });
  }

  async #storedAnalysis(sha256: string): Promise<MusicAnalysis> {
    const text = await readFile(this.store.derivedPath(sha256, SONG_FILES.analysis), "utf8").catch((cause: unknown) => {
      throw new HummingTideError(
        "song-missing",
        "The song of this show is not in the data folder any more. Bring it in again.",
        { cause },
      );
    });
    return JSON.parse(text) as MusicAnalysis;
  }

  /** The facts of media by content hash; those of pictures that an older version measured are completed first. */
  async facts(hashes: readonly string[]): Promise<Map<string, MediaFacts>> {
    const facts = await mediaStore.getMany(hashes);
    const unmeasured = [...facts.values()].filter((seen) => isSeen(seen) && seen.subject === null);
    await Promise.all(
      unmeasured.map(async (seen) => {
        const working = this.store.derivedPath(seen.sha256, PICTURE_FILES.working);
        // A picture whose file is gone is told where it is drawn.
        const subject = await this.#decoding(() => measureSubject(sharp(working))).catch(() => null);
        if (!subject || !isSeen(seen)) return;
        const complete = { ...seen, subject };
        facts.set(seen.sha256, complete);
        await mediaStore.put(complete);
      }),
    );
    return facts;
  }

  /** The facts that planFilm needs for a show. Throws `song-missing`. */
  async filmFacts(document: ShowDocument): Promise<FilmFacts> {
    return factsOf(await this.plainFacts(document));
  }

  /** The same as plain data, for a thread. Throws `song-missing`. */
  async plainFacts(document: ShowDocument): Promise<PlainFacts> {
    const analyses: Record<string, MusicAnalysis> = {};
    for (const { sha256 } of document.songs) analyses[sha256] = await this.analysis(sha256);
    const speech: Record<string, SpeechFacts> = {};
    for (const sha256 of heardSounds(document)) speech[sha256] = await this.speech(sha256);
    const seen: Record<string, SeenMedia> = {};
    for (const [sha256, facts] of await this.facts(seenHashes(document))) if (isSeen(facts)) seen[sha256] = facts;
    return { analyses, seen, speech };
  }

  /**
   * Makes everything that an export of a show will draw, and gives the folders of the copies that it draws pictures from instead of their working copies, by picture. Throws what `ensureDrawn`, `ensureGraphic` and decoding
   * throw.
   */
  async prepareFilm(
    document: ShowDocument,
    plan: PictureTrack & Pick<FilmPlan, "sound">,
  ): Promise<ReadonlyMap<string, string>> {
    const names = new Set(namedPictures(document).map(({ sha256, turn }) => drawnPicture(sha256, turn)));
    await Promise.all([...names].map((name) => this.ensureDrawn(name)));
    await Promise.all(namedGraphics(document).map(({ sha256 }) => this.ensureGraphic(sha256)));
    await Promise.all(
      [...new Set(plan.sound.pieces.map(({ soundName: name }) => name))].map((name) => this.ensureSound(name)),
    );
    const facts = await this.facts(seenHashes(document));
    const pictures = new Map([...facts].flatMap(([sha256, seen]) => (seen.kind === "picture" ? [[sha256, seen]] : [])));
    const copies = filmCopies(plan, (sha256) => pictures.get(sha256));
    await Promise.all(
      [...copies].map(([name, copy]) =>
        this.#ensureCopy(name, copy, pictures.get(parseDrawnPicture(name)!.sha256)!.mime),
      ),
    );
    return new Map([...copies].map(([name, { folder }]) => [name, folder]));
  }

  async #ensureCopy(name: string, copy: FilmCopy, mime: string): Promise<void> {
    if (await this.store.has(this.store.derivedPath(copy.folder, COPY_FILE))) return;
    const { sha256, turn } = parseDrawnPicture(name)!;
    const original = this.store.originalPath(sha256);
    if (!(await this.store.has(original)))
      throw new HummingTideError("media-unknown", "The picture is not in the data folder any more. Bring it in again.");
    await this.#once(copy.folder, () =>
      this.store.derive(copy.folder, async (folder) => {
        const { picture } = await decodePicture(original, mime);
        await writeFilmCopy(picture, turn, copy, path.join(folder, COPY_FILE));
      }),
    );
  }
}

/** Content of everything that a show lets see. */
export const seenHashes = (document: ShowDocument): string[] => [
  ...new Set([...namedPictures(document), ...namedGraphics(document)].map(({ sha256 }) => sha256)),
];

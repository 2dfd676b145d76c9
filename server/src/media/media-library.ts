import { EventEmitter, once } from "node:events";
import { createReadStream } from "node:fs";
import { readFile } from "node:fs/promises";
import { availableParallelism } from "node:os";
import path from "node:path";
import type { Readable } from "node:stream";
import {
  type ClipFacts,
  isSeen,
  isUnderWay,
  type LiveEvent,
  type MediaFacts,
  type PictureFacts,
  type StoredProposal,
} from "@humming-tide/contract";
import type { HummingTideError } from "@humming-tide/core";
import { type FilmFacts, type FilmPlan, factsOf, type SeenMedia, speechName } from "@humming-tide/core/film";
import { ANALYSIS_VERSION, type MusicAnalysis, packPeaks } from "@humming-tide/core/music";
import { drawnPicture, type PictureTrack, parseDrawnPicture } from "@humming-tide/core/picture";
import { present, valueFor } from "@humming-tide/core/presence";
import { heardSounds, namedGraphics, namedPictures, type ShowDocument } from "@humming-tide/core/show";
import { parseSoundName, type SpeechFacts, soundName } from "@humming-tide/core/sound";
import pLimit from "p-limit";
import sharp from "sharp";
import type { Background } from "../background/background.ts";
import { secondsLeft } from "../jobs/seconds-left.ts";
import type { MediaStore } from "../store/media-store.ts";
import type { ProxyStore } from "../store/proxy-store.ts";
import { type ListenOptions, listen } from "../workers/listen.ts";
import { canLookForFaces } from "../workers/look-for-faces.ts";
import { CLIP_FILES, takeInClip } from "./clip-intake.ts";
import type { ContentStore, ReceivedFile } from "./content-store.ts";
import { downmixRemark } from "./downmix.ts";
import { COPY_FILE, type FilmCopy, filmCopies } from "./film-copies.ts";
import { identify, type MediaKind } from "./identify.ts";
import { mediaError } from "./media-errors.ts";
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
import { PROPOSAL_FILE, proposeClip, readProposal } from "./propose-clip.ts";
import { SONG_FILES, takeInSong } from "./song-intake.ts";
import { heardIn, measureSong, SPOKEN_FILES, writeCleaned, writeSpoken } from "./spoken-sound.ts";
import { readFacts, type StoredFacts } from "./stored-facts.ts";

/** What a file that comes in is for: sound is a song unless it is wanted as a voice. */
type Wanted = "any" | "voice";

/**
 * What is made of a medium when it comes in. A voice's files have a name of their own and are made
 * on first use.
 */
const MADE_OF: Readonly<Record<MediaFacts["kind"], readonly string[]>> = {
  picture: Object.values(PICTURE_FILES),
  clip: Object.values(PICTURE_FILES),
  song: Object.values(SONG_FILES),
  voice: [],
};

/**
 * A medium that is made ready while somebody waits for it: told when that begins, on the way where
 * it takes long, and when it has ended.
 */
export type PreparingMedium = Omit<Extract<LiveEvent, { kind: "preparing" }>, "kind">;

export interface TakeInOptions {
  /** Refused where the content has another hash. */
  readonly expectedSha256?: string;
  readonly wanted?: Wanted;
  /** Ends the work when whoever sent the file has gone. */
  readonly signal?: AbortSignal;
}

export interface LibrarySources {
  readonly store: ContentStore;
  readonly media: MediaStore;
  readonly proxies: ProxyStore;
  readonly background: Background;
}

/** Pictures, clips, songs and voices: taking them in, and their facts. */
export class MediaLibrary extends EventEmitter<{ preparing: [PreparingMedium]; copyWanted: []; copyEnded: [string] }> {
  readonly store: ContentStore;
  readonly media: MediaStore;
  readonly #proxies: ProxyStore;
  readonly #background: Background;
  /**
   * Files are received as they come, but decoded only as many at a time as there are cores: memory
   * stays flat.
   */
  readonly #decoding = pLimit(Math.max(2, availableParallelism()));
  /** Pictures of an older version whose heads are being looked for, or were. */
  readonly #headless = new Set<string>();
  #lookingForHeads = Promise.resolve();
  readonly #closing = new AbortController();
  readonly #arriving = new Map<string, Promise<MediaFacts>>();
  readonly #making = new Map<string, Promise<void>>();
  /** Songs that this version of the analysis has heard or is hearing. */
  readonly #hearing = new Map<string, Promise<void>>();

  constructor({ store, media, proxies, background }: LibrarySources) {
    super();
    this.setMaxListeners(0);
    this.store = store;
    this.media = media;
    this.#proxies = proxies;
    this.#background = background;
  }

  /**
   * Takes in one file: received, checked by content, decoded, derived files made, facts saved. The
   * same content again costs only the reading and gives the same facts. A refused file leaves
   * nothing behind. Throws `sum-wrong` where the content does not have an expected hash, and what
   * identifying and decoding throw.
   */
  async takeIn(
    stream: Readable,
    fileName: string,
    { expectedSha256, wanted = "any", signal }: TakeInOptions = {},
  ): Promise<MediaFacts> {
    const received = await this.store.receive(stream);
    try {
      if (expectedSha256 !== undefined && received.sha256 !== expectedSha256) {
        throw mediaError("sum-wrong", { fileName });
      }
      const facts = await this.#onceFor(received, fileName, wanted, signal);
      return { ...facts, fileName };
    } finally {
      await this.store.discard(received);
    }
  }

  /** The same content arriving twice at the same time is decoded once. */
  async #onceFor(
    received: ReceivedFile,
    fileName: string,
    wanted: Wanted,
    signal = new AbortController().signal,
  ): Promise<MediaFacts> {
    const { sha256 } = received;
    for (;;) {
      const other = this.#arriving.get(sha256);
      const arriving = other ?? this.#accept(received, fileName, wanted, signal);
      this.#arriving.set(sha256, arriving);
      try {
        return await arriving;
      } catch (error) {
        // Whoever sent it first has gone: that is no reason to refuse it to the next one.
        if (!other || signal.aborted || (error as { code?: string }).code !== "upload-broken-off") throw error;
      } finally {
        if (this.#arriving.get(sha256) === arriving) this.#arriving.delete(sha256);
      }
    }
  }

  async #accept(received: ReceivedFile, fileName: string, wanted: Wanted, signal: AbortSignal): Promise<MediaFacts> {
    const known = await this.media.get(received.sha256);
    const isKnown = known && (await this.store.has(this.store.originalPath(received.sha256)));
    // A voice that comes again as a song is one from now on; a song, or a clip, can be heard as a
    // voice as it is.
    if (isKnown && (known.kind !== "voice" || wanted === "voice")) {
      await this.ensureMade(known.sha256);
      return known;
    }
    const facts = await this.#decoding(() => this.#derive(received, fileName, wanted, signal));
    await this.store.accept(received);
    await this.media.put(facts);
    if (facts.kind === "clip") {
      await this.#proxies.ask(facts.sha256);
      this.emit("copyWanted");
    }
    return facts;
  }

  async #derive(received: ReceivedFile, fileName: string, wanted: Wanted, signal: AbortSignal): Promise<MediaFacts> {
    signal.throwIfAborted();
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
      facts = { ...common, ...(await makeFiles(kind, mime, received.path, folder, { signal })) };
    });
    return present(facts);
  }

  /**
   * Makes sure that what is made of a medium when it comes in is there: the folder of derived
   * files, or a file in it, may have been deleted. Long for songs. Throws `media-unknown` where the
   * medium itself is no longer there.
   */
  async ensureMade(sha256: string): Promise<void> {
    const facts = await this.media.get(sha256);
    if (!facts) throw mediaError("media-unknown", { what: "This file" });
    const missing = await this.#firstMissing(facts);
    if (missing === null) return;
    const original = this.store.originalPath(sha256);
    if (!(await this.store.has(original))) throw mediaError("media-unknown", { what: `"${facts.fileName}"` });
    await this.#once(sha256, async () => {
      if ((await this.#firstMissing(facts)) === null) return;
      const { kind, mime } = facts;
      if (kind === "voice") return;
      await this.#telling(facts, (onProgress) =>
        this.store.addDerived(sha256, async (folder) => {
          await makeFiles(kind, mime, original, folder, { onProgress });
        }),
      );
      this.#hearing.delete(sha256);
    });
  }

  /**
   * Tells of work that somebody waits for: that it has begun, how far it is, and that it has ended.
   */
  async #telling<Result>(
    { sha256, fileName }: MediaFacts,
    work: (onProgress: (share: number) => void) => Promise<Result>,
  ): Promise<Result> {
    const began = performance.now();
    const tell = (progress: number | null, isDone: boolean): void => {
      const left = progress === null ? null : secondsLeft(progress, (performance.now() - began) / 1000);
      this.emit("preparing", { sha256, fileName, isDone, progress, secondsLeft: left });
    };
    tell(null, false);
    try {
      return await work((share) => tell(share, false));
    } finally {
      tell(null, true);
    }
  }

  async #hasAll(of: string, files: readonly string[]): Promise<boolean> {
    for (const file of files) if (!(await this.store.has(this.store.derivedPath(of, file)))) return false;
    return true;
  }

  async #firstMissing({ kind, sha256 }: MediaFacts): Promise<string | null> {
    for (const file of MADE_OF[kind]) if (!(await this.store.has(this.store.derivedPath(sha256, file)))) return file;
    return null;
  }

  /**
   * Makes sure that the files of a drawn picture are there: those of a turned one are made on first
   * use. Throws `media-unknown` where the picture itself is missing.
   */
  async ensureDrawn(name: string): Promise<void> {
    const parsed = parseDrawnPicture(name);
    if (!parsed) throw mediaError("media-unknown", { what: "This picture" });
    const { sha256, turn } = parsed;
    if (await this.#hasAll(name, Object.values(PICTURE_FILES))) return;
    await this.ensureMade(sha256);
    if (turn === 0) return;
    await this.#once(name, () =>
      this.store.derive(name, (folder) => turnPictureFiles(this.store.derivedPath(sha256, ""), folder, turn)),
    );
  }

  /**
   * Makes sure that the playable copy of a clip is there, or that it is being made: throws
   * `copy-in-making` then. Throws `media-unknown`.
   */
  async ensureCopy(sha256: string): Promise<void> {
    if (await this.store.has(this.store.derivedPath(sha256, CLIP_FILES.proxy))) return;
    const facts = await this.media.get(sha256);
    if (facts?.kind !== "clip" || !(await this.store.has(this.store.originalPath(sha256))))
      throw mediaError("media-unknown", { what: "This clip" });
    await this.#proxies.askMissing(sha256);
    this.emit("copyWanted");
    throw mediaError("copy-in-making");
  }

  /**
   * Makes sure that a picture's graphic is there: it is made on first use. Throws `media-unknown`.
   */
  async ensureGraphic(sha256: string): Promise<string> {
    const name = graphicFolder(sha256);
    const place = this.store.derivedPath(name, GRAPHIC_FILES.graphic);
    if (await this.store.has(place)) return place;
    const original = this.store.originalPath(sha256);
    if (!(await this.store.has(original))) throw mediaError("media-unknown", { what: "This graphic" });
    await this.#once(name, () => this.store.derive(name, (folder) => writeGraphic(original, folder)));
    return place;
  }

  /**
   * Makes sure that a decode is there that is heard in a film (core/sound, soundName): that of a
   * song was made when it came in, those of voices and clips are made on first use. Throws
   * `media-unknown` where the file is not there, and what decoding throws.
   */
  async ensureSound(name: string): Promise<void> {
    const parsed = parseSoundName(name);
    if (!parsed) throw mediaError("media-unknown", { what: "This sound" });
    const { sha256, version } = parsed;
    if (version === "song") return this.ensureMade(sha256);
    const wanted = version === "spoken" ? Object.values(SPOKEN_FILES) : [SPOKEN_FILES.sound];
    if (await this.#hasAll(name, wanted)) return;
    const facts = await this.media.get(sha256);
    const original = this.store.originalPath(sha256);
    if (!facts || !(await this.store.has(original))) throw mediaError("media-unknown", { what: "This sound" });
    if (version === "spoken") {
      const kind = facts.kind === "clip" ? "clip" : "voice";
      await this.#once(name, () =>
        this.#telling(facts, () => this.store.derive(name, (folder) => writeSpoken(original, folder, kind))),
      );
      return;
    }
    const spoken = soundName(sha256, "spoken");
    await this.ensureSound(spoken);
    const from = this.store.derivedPath(spoken, SPOKEN_FILES.sound);
    await this.#once(name, () =>
      this.#telling(facts, () => this.store.derive(name, (folder) => writeCleaned(from, folder))),
    );
  }

  /**
   * How loud a sound is; of voices and clips, and of a song by the name of its spoken decode, also
   * where someone speaks. Measured on first use. Throws what `ensureSound` throws.
   */
  async speech(name: string): Promise<SpeechFacts> {
    const stored = await this.#storedSpeech(name);
    return typeof stored === "string" ? heardIn(stored) : stored;
  }

  /** The same, or the file that says it. */
  async #storedSpeech(name: string): Promise<string | SpeechFacts> {
    const parsed = parseSoundName(name);
    if (!parsed) throw mediaError("media-unknown", { what: "This sound" });
    const { sha256, version } = parsed;
    const facts = await this.media.get(sha256);
    if (facts?.kind === "clip" && facts.sound === null)
      return { durationSeconds: facts.durationSeconds, stretches: [], lufs: null, noiseDecibels: null };
    if (facts?.kind !== "song" || version === "spoken") {
      const spoken = soundName(sha256, "spoken");
      await this.ensureSound(spoken);
      return this.store.derivedPath(spoken, SPOKEN_FILES.speech);
    }
    const place = this.store.derivedPath(sha256, SPOKEN_FILES.speech);
    if (await this.store.has(place)) return place;
    await this.ensureMade(sha256);
    await this.#once(`${sha256} speech`, async () => {
      const heard = await measureSong(this.store.derivedPath(sha256, SONG_FILES.sound));
      await this.store.replaceDerived(sha256, SPOKEN_FILES.speech, JSON.stringify(heard));
    });
    return place;
  }

  /**
   * The clip in a picture's file, taken in as a clip of its own. Throws `media-unknown` where there
   * is none, and what taking in throws.
   */
  async movingPart(sha256: string, signal: AbortSignal): Promise<MediaFacts> {
    const facts = await this.media.get(sha256);
    const original = this.store.originalPath(sha256);
    if (facts?.kind !== "picture" || !facts.movingPart || !(await this.store.has(original)))
      throw mediaError("media-unknown", { what: "A moving part of this picture" });
    const { startByte, bytes } = facts.movingPart;
    const { name } = path.parse(facts.fileName);
    const content = createReadStream(original, { start: startByte, end: startByte + bytes - 1 });
    return this.takeIn(content, `${name} moving.mp4`, { signal });
  }

  /**
   * What is proposed for a clip: its moments, trims and stretches. The clip is looked through on
   * first use, as soon as its playable copy is made. Throws `media-unknown`, `ffmpeg-failed`.
   */
  async clipProposal(sha256: string): Promise<StoredProposal> {
    const facts = await this.media.get(sha256);
    if (facts?.kind !== "clip") throw mediaError("media-unknown", { what: "This clip" });
    const stored = await this.#storedProposal(sha256);
    if (stored) return stored;
    // Nobody else is kept from decoding while this waits for the copy.
    const file = await this.#copyOrOriginal(facts);
    await this.#once(`${sha256} proposal`, async () => {
      if (await this.#storedProposal(sha256)) return;
      const proposal = await this.#telling(facts, (onProgress) => proposeClip(file, facts, onProgress));
      await this.store.replaceDerived(sha256, PROPOSAL_FILE, JSON.stringify(proposal));
    });
    return present(await this.#storedProposal(sha256));
  }

  /** The playable copy, which is waited for; the clip itself where none can be made of it. */
  async #copyOrOriginal({ sha256, fileName }: ClipFacts): Promise<string> {
    const copy = this.store.derivedPath(sha256, CLIP_FILES.proxy);
    if (await this.store.has(copy)) return copy;
    const original = this.store.originalPath(sha256);
    if (!(await this.store.has(original))) throw mediaError("media-unknown", { what: `"${fileName}"` });
    const waiting = new AbortController();
    const ended = this.#copyEnded(sha256, AbortSignal.any([waiting.signal, this.#closing.signal]));
    try {
      await this.#proxies.askMissing(sha256);
      this.emit("copyWanted");
      if (isUnderWay(await this.#proxies.get(sha256))) await ended;
    } finally {
      waiting.abort();
    }
    this.#closing.signal.throwIfAborted();
    return (await this.store.has(copy)) ? copy : original;
  }

  /** Resolves when the job that makes a clip's copy ends, well or not, or nobody waits any more. */
  async #copyEnded(sha256: string, signal: AbortSignal): Promise<void> {
    try {
      while ((await once(this, "copyEnded", { signal }))[0] !== sha256);
    } catch (error) {
      if (!signal.aborted) throw error;
    }
  }

  /** Null where there is none of this version. */
  async #storedProposal(sha256: string): Promise<StoredProposal | null> {
    const place = this.store.derivedPath(sha256, PROPOSAL_FILE);
    if (!(await this.store.has(place))) return null;
    return readProposal(await readFile(place, "utf8"));
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
    return JSON.parse(await readFile(this.store.derivedPath(sha256, SONG_FILES.analysis), "utf8")) as MusicAnalysis;
  }

  /**
   * Makes sure that a song was heard by this version of the analysis: one that an older version
   * heard is listened to again, once. A person's corrections of the grid are kept apart from it and
   * stay. Throws `song-missing`.
   */
  async ensureHeard(sha256: string): Promise<void> {
    // The files can go while the server runs.
    if (!(await this.#hasAll(sha256, MADE_OF.song))) this.#hearing.delete(sha256);
    const hearing = this.#hearing.get(sha256) ?? this.#hearAgainIfOld(sha256);
    this.#hearing.set(sha256, hearing);
    // A song once heard stays in the list, so that it is looked up once; a failure is tried again.
    await hearing.catch((error: unknown) => {
      this.#hearing.delete(sha256);
      throw error;
    });
  }

  async #hearAgainIfOld(sha256: string): Promise<void> {
    await this.ensureMade(sha256).catch((cause: unknown) => {
      if ((cause as { code?: string }).code !== "media-unknown") throw cause;
      throw unknownSong({ cause });
    });
    const place = this.store.derivedPath(sha256, SONG_FILES.analysis);
    if ((await this.#background.run("analysisVersion", place)) === ANALYSIS_VERSION) return;
    const facts = await this.media.get(sha256);
    if (!facts) throw unknownSong();
    const sound = this.store.derivedPath(sha256, SONG_FILES.sound);
    const { analysis, peaks } = await this.#decoding(() =>
      this.#telling(facts, (onProgress) => listen(sound, { onProgress })),
    );
    // The analysis comes last: its version says that both are there.
    await this.store.replaceDerived(sha256, SONG_FILES.peaks, packPeaks(peaks));
    await this.store.replaceDerived(sha256, SONG_FILES.analysis, JSON.stringify(analysis));
    const { steady, tempoBpm } = analysis;
    if (facts.kind === "song") await this.media.put({ ...facts, steady, tempoBpm });
  }

  /**
   * The facts of media by content hash. Those of pictures that an old version measured are
   * completed: a subject at once, heads later, since looking for them takes half a second each.
   */
  async facts(hashes: readonly string[]): Promise<Map<string, MediaFacts>> {
    const facts = await this.media.getMany(hashes);
    const seen = [...facts.values()].filter(isSeen);
    const complete = await Promise.all(
      seen.filter(({ subject }) => subject === null).map((one) => this.#measured(one)),
    );
    for (const one of complete) if (one) facts.set(one.sha256, one);
    this.#lookForHeadsLater(seen.filter(({ subject }) => subject && subject.heads === undefined));
    return facts;
  }

  /** One picture after the other, beside other work; they are seen when the show is next opened. */
  #lookForHeadsLater(seen: readonly (PictureFacts | ClipFacts)[]): void {
    for (const one of seen) {
      if (this.#headless.has(one.sha256)) continue;
      this.#headless.add(one.sha256);
      this.#lookingForHeads = this.#lookingForHeads.then(async () => {
        if (!this.#closing.signal.aborted && canLookForFaces()) await this.#measured(one);
      });
    }
  }

  /** Null where the picture's file is gone, which is told where it is drawn, or cannot be kept. */
  async #measured(seen: PictureFacts | ClipFacts): Promise<PictureFacts | ClipFacts | null> {
    try {
      const working = this.store.derivedPath(seen.sha256, PICTURE_FILES.working);
      const complete = { ...seen, subject: await this.#decoding(() => measureSubject(sharp(working))) };
      await this.media.put(complete);
      return complete;
    } catch {
      return null;
    }
  }

  /** What was left for later stays for the next time; resolves when nothing is written any more. */
  async close(): Promise<void> {
    this.#closing.abort();
    await this.#lookingForHeads;
  }

  /**
   * The facts that planFilm needs for a show, read on this thread: for programs that do nothing
   * else. Throws `song-missing`.
   */
  async filmFacts(document: ShowDocument): Promise<FilmFacts> {
    return factsOf(readFacts(await this.storedFacts(document)));
  }

  /**
   * The facts that the length of a film follows from; undefined where songs would have to be
   * listened to first.
   */
  async knownFacts(document: ShowDocument): Promise<StoredFacts | undefined> {
    const analyses: Record<string, string> = {};
    for (const sha256 of new Set(document.songs.map((song) => song.sha256))) {
      const place = this.store.derivedPath(sha256, SONG_FILES.analysis);
      if ((await this.#background.run("analysisVersion", place)) !== ANALYSIS_VERSION) return undefined;
      analyses[sha256] = place;
    }
    return { analyses, speech: {}, seen: await this.#seen(document) };
  }

  /** Makes sure that all facts of a show are there, and says where. Throws `song-missing`. */
  async storedFacts(document: ShowDocument): Promise<StoredFacts> {
    const analyses: Record<string, string> = {};
    for (const { sha256 } of document.songs) {
      await this.ensureHeard(sha256);
      analyses[sha256] = this.store.derivedPath(sha256, SONG_FILES.analysis);
    }
    const speech: Record<string, string | SpeechFacts> = {};
    for (const sha256 of heardSounds(document)) speech[sha256] = await this.#storedSpeech(speechName(document, sha256));
    return { analyses, speech, seen: await this.#seen(document) };
  }

  async #seen(document: ShowDocument): Promise<Record<string, SeenMedia>> {
    const seen: Record<string, SeenMedia> = {};
    for (const [sha256, facts] of await this.facts(seenHashes(document))) if (isSeen(facts)) seen[sha256] = facts;
    return seen;
  }

  /**
   * Makes everything that an export of a show will draw. Gives the folders of copies that pictures
   * are drawn from instead of their working copies, by picture. Throws what `ensureDrawn`,
   * `ensureGraphic` and decoding throw.
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
        this.#ensureCopy(name, copy, valueFor(pictures, present(parseDrawnPicture(name)).sha256).mime),
      ),
    );
    return new Map([...copies].map(([name, { folder }]) => [name, folder]));
  }

  async #ensureCopy(name: string, copy: FilmCopy, mime: string): Promise<void> {
    if (await this.store.has(this.store.derivedPath(copy.folder, COPY_FILE))) return;
    const { sha256, turn } = present(parseDrawnPicture(name));
    const original = this.store.originalPath(sha256);
    if (!(await this.store.has(original))) throw mediaError("media-unknown", { what: "This picture" });
    await this.#once(copy.folder, () =>
      this.store.derive(copy.folder, async (folder) => {
        const { picture } = await decodePicture(original, mime);
        await writeFilmCopy(picture, turn, copy, path.join(folder, COPY_FILE));
      }),
    );
  }
}

const unknownSong = (options?: ErrorOptions): HummingTideError =>
  mediaError("media-unknown", { what: "The song of this show" }, options);

type MadeFacts<Kind> = Kind extends "song"
  ? Pick<Extract<MediaFacts, { kind: "song" }>, "kind" | "durationSeconds" | "steady" | "tempoBpm" | "remark">
  : Omit<Extract<MediaFacts, { kind: Kind }>, "sha256" | "fileName" | "bytes" | "mime">;

/**
 * Writes everything that is made of a file when it comes in, and gives what was measured on the
 * way.
 */
async function makeFiles(
  kind: MediaKind,
  mime: string,
  path: string,
  folder: string,
  options: ListenOptions,
): Promise<MadeFacts<MediaKind>> {
  switch (kind) {
    case "picture":
      return { kind, ...(await takeInPicture(path, mime, folder)) };
    case "clip":
      return { kind, ...(await takeInClip(path, folder, options.signal)) };
    case "song": {
      const { analysis, remark } = await takeInSong(path, folder, options);
      const { durationSeconds, steady, tempoBpm } = analysis;
      return { kind, durationSeconds, steady, tempoBpm, remark };
    }
  }
}

/** Content of everything that a show lets see. */
export const seenHashes = (document: ShowDocument): string[] => [
  ...new Set([...namedPictures(document), ...namedGraphics(document)].map(({ sha256 }) => sha256)),
];

import { createReadStream } from "node:fs";
import { readdir, stat } from "node:fs/promises";
import { availableParallelism } from "node:os";
import path from "node:path";
import type { Readable } from "node:stream";
import { type AnnouncedFile, type IntakeFile, type MediaFacts, type SongFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { lastOf } from "@humming-tide/core/presence";
import {
  arrivalPlace,
  chooseSong,
  insertSlides,
  isSystemFile,
  naturalOrder,
  newSlide,
  type ShowDocument,
} from "@humming-tide/core/show";
import { firstSong, SOUND_KIND_WORDS, type SoundKind, soundKind, soundName } from "@humming-tide/core/sound";
import type { Studio } from "@humming-tide/server";
import { filesOf, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import { findOrBeginShow } from "../find-show.ts";
import { inStudio, untilStopped } from "../in-studio.ts";
import type { Terminal } from "../terminal.ts";

export const GATHER_HELP = `humming-tide gather SHOW DIR [--data FOLDER]

Brings all pictures and clips of a folder, and a song where there is one, into a show, at its end,
in natural order of their paths. A show without a song takes the first that sounds like one. Nothing
that is there is replaced.

  SHOW           the show's name or its id; where there is none of that name, it is begun
  DIR            a folder; everything inside it at any depth, hidden files left out
  --data FOLDER  where the shows lie (default: HUMMING_TIDE_DATA, or "Humming Tide" in your home
                 folder)

Stop it with Ctrl-C and run it again: it goes on where it stopped, also after a crash. A data folder
belongs to one program at a time: stop the server first, or bring the files in on its page.
Exit codes: 0 all files are in or were there already, 1 some are not, 2 wrong arguments.`;

/** What is in is put into the show this often, so that a crash costs little. */
const PLACE_EVERY_MS = 2000;

export async function gather(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["data"]);
  const { options } = parsed;
  const [name, folder] = filesOf("gather", parsed, ["SHOW", "DIR"]);
  if (!(await stat(folder).catch(() => null))?.isDirectory()) {
    throw commandError("path-unknown", { what: "folder", path: folder });
  }
  return untilStopped((signal) =>
    inStudio(options.data, async (studio) => {
      try {
        const show = await findOrBeginShow(studio, name, terminal);
        return await new Gathering(studio, show.id, folder, terminal, signal).run();
      } finally {
        terminal.endProgress();
      }
    }),
  );
}

interface Arrived {
  readonly file: IntakeFile;
  readonly order: number;
  readonly facts: MediaFacts;
}

interface ArrivedSound {
  readonly order: number;
  readonly facts: SongFacts;
  /** The data folder had it before. */
  readonly isKnown: boolean;
  readonly kind: SoundKind;
}

class Gathering {
  readonly #studio: Studio;
  readonly #showId: string;
  readonly #folder: string;
  readonly #terminal: Terminal;
  readonly #signal: AbortSignal;
  readonly #orderOf = new Map<string, number>();
  #arrived: Arrived[] = [];
  /** Told apart when all of them are in. */
  readonly #sounds: ArrivedSound[] = [];
  #placing: Promise<void> = Promise.resolve();
  #cameIn = 0;
  #there = 0;
  #refused = 0;

  constructor(studio: Studio, showId: string, folder: string, terminal: Terminal, signal: AbortSignal) {
    this.#studio = studio;
    this.#showId = showId;
    this.#folder = folder;
    this.#terminal = terminal;
    this.#signal = signal;
  }

  async run(): Promise<number> {
    const announced = await this.#studio.intake.announce(this.#showId, await filesIn(this.#folder));
    for (const [order, file] of announced.entries()) this.#orderOf.set(file.id, order);
    const waiting = [...announced.entries()];
    let done = 0;
    const work = async (): Promise<void> => {
      for (let next = waiting.shift(); next && !this.#signal.aborted; next = waiting.shift()) {
        const [order, file] = next;
        this.#terminal.progressLine(
          `${done} of ${announced.length}: ${path.basename(file.path)}`,
          done / announced.length,
        );
        const facts = file.facts ?? (await this.#takeIn(file));
        if (facts?.kind === "song") {
          const kind = await this.#kindOf(facts);
          this.#sounds.push({ order, facts, isKnown: file.facts !== null, kind });
        } else if (facts) this.#arrived.push({ file, order, facts });
        done++;
      }
    };
    const placing = setInterval(() => this.#place(), PLACE_EVERY_MS);
    try {
      await Promise.all(Array.from({ length: Math.max(2, availableParallelism()) }, work));
    } finally {
      clearInterval(placing);
      this.#place();
      await this.#placing;
    }
    await this.#placeSounds();
    this.#terminal.endProgress();
    const left = announced.length - done;
    if (left > 0) this.#terminal.print(`Stopped: ${left} of ${announced.length} files wait. Run it again to go on.`);
    this.#terminal.print(
      `${this.#cameIn} came in, ${this.#there} were there already, ${this.#refused} were not taken in`,
    );
    return this.#refused === 0 && left === 0 ? 0 : 1;
  }

  async #takeIn(file: IntakeFile): Promise<MediaFacts | null> {
    try {
      const open = (): Readable => createReadStream(path.join(this.#folder, file.path), { signal: this.#signal });
      return await this.#studio.intake.take(this.#showId, file.id, open);
    } catch (error) {
      if (this.#signal.aborted) return null;
      const known = error instanceof HummingTideError;
      if (known && (error.code === "disk-full" || error.code === "ffmpeg-missing")) throw error;
      this.#refused++;
      this.#terminal.print(`not taken in: ${file.path}: ${(error as Error).message}`);
      return null;
    }
  }

  /** Puts what arrived since the last time into the show, one save after another. */
  #place(): void {
    this.#placing = this.#placing.then(async () => {
      const items = this.#arrived;
      this.#arrived = [];
      if (items.length === 0) return;
      let counts = { cameIn: 0, there: 0 };
      await this.#studio.shows.edit(this.#showId, (show) => {
        // Runs again where another program saved in between.
        counts = { cameIn: 0, there: 0 };
        return items.reduce((document, item) => this.#placeOne(document, item, counts), show);
      });
      this.#cameIn += counts.cameIn;
      this.#there += counts.there;
    });
  }

  #placeOne(
    show: ShowDocument,
    { file, order, facts }: Arrived,
    counts: { cameIn: number; there: number },
  ): ShowDocument {
    const { sha256, fileName } = facts;
    if (show.slides.some((slide) => slide.sha256 === sha256)) {
      counts.there++;
      return show;
    }
    counts.cameIn++;
    const passageId = lastOf(show.passages).id;
    const later = show.slides.find(
      (slide) => slide.passageId === passageId && (this.#orderOf.get(slide.id) ?? -1) > order,
    );
    const slide = newSlide({ id: file.id, sha256, fileName });
    return insertSlides(show, [slide], later ? { passageId, beforeId: later.id } : arrivalPlace(show, passageId));
  }

  /** Only where there is no steady beat a sound has to be listened to for words. */
  async #kindOf(facts: SongFacts): Promise<SoundKind> {
    const { library } = this.#studio;
    return soundKind(
      facts,
      facts.steady ? null : await library.speech(soundName(facts.sha256, "spoken")).catch(() => null),
    );
  }

  /**
   * A show without a song takes the first; all others are in the song library, and it is said what
   * they sound like.
   */
  async #placeSounds(): Promise<void> {
    const sounds = this.#sounds.toSorted((a, b) => a.order - b.order);
    if (sounds.length === 0) return;
    let before: ReadonlySet<string> = new Set();
    let song: ArrivedSound | null = null;
    await this.#studio.shows.edit(this.#showId, (show) => {
      // Runs again where another program saved in between.
      before = new Set(show.songs.map(({ sha256 }) => sha256));
      song = before.size === 0 ? firstSong(sounds) : null;
      return song ? chooseSong(show, song.facts) : show;
    });
    for (const sound of sounds) {
      const { fileName, sha256, remark } = sound.facts;
      if (sound.isKnown || before.has(sha256)) this.#there++;
      else this.#cameIn++;
      if (sound === song && remark) this.#terminal.print(`${fileName}: ${remark}`);
      if (sound !== song && !before.has(sha256))
        this.#terminal.print(
          `${fileName} ${SOUND_KIND_WORDS[sound.kind]}. It is in the song library and not in the film.`,
        );
    }
  }
}

/**
 * All files of a folder at any depth, by their paths inside it, in natural order; links are not
 * followed.
 */
async function filesIn(folder: string): Promise<AnnouncedFile[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const found = entries
    .filter((entry) => entry.isFile())
    .map((entry) => path.relative(folder, path.join(entry.parentPath, entry.name)))
    .filter((place) => !isSystemFile(place.split(path.sep).join("/")))
    .sort(naturalOrder);
  return Promise.all(
    found.map(async (place) => {
      const facts = await stat(path.join(folder, place));
      return { path: place, bytes: facts.size, modifiedMs: Math.floor(facts.mtimeMs) };
    }),
  );
}

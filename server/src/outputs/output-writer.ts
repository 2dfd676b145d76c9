import type { FilmMeasurement } from "@humming-tide/contract";
import type { FilmPlan } from "@humming-tide/core/film";
import type { FilmOutput, Quality, ShowDocument } from "@humming-tide/core/show";
import type { ContentStore } from "../media/content-store.ts";

export interface OutputProgress {
  readonly step: string;
  /** 0 to 1 over the whole of the work. */
  readonly progress: number;
}

/** What an output is written from. */
export interface WriteRequest {
  readonly document: ShowDocument;
  readonly output: FilmOutput;
  /** Of this output. */
  readonly plan: FilmPlan;
  readonly store: ContentStore;
  /** Of MediaLibrary.prepareFilm. */
  readonly copies: ReadonlyMap<string, string>;
  /** Where the file goes. */
  readonly place: string;
  /** For what is finished of it, so that it need not be made again after a crash. */
  readonly partsFolder: string;
  readonly signal: AbortSignal;
  readonly onProgress: (progress: OutputProgress) => void;
}

export interface WrittenOutput {
  readonly bytes: number;
  /**
   * What is known of a film that is one file: its plan as text, and what was measured in it. A
   * player has none: its page draws it.
   */
  readonly film: { readonly report: string; readonly measurement: FilmMeasurement } | null;
}

/** Writes one kind of file that a show is handed over as. */
export interface OutputWriter {
  /** Of the file's name, without the dot. */
  readonly extension: string;
  readonly mime: string;
  /**
   * Throws `size-odd` and `size-too-small` where such a file cannot have an output's size,
   * `ffmpeg-missing`, and `encoder-missing` where this machine cannot write such a file.
   */
  check(output: Pick<FilmOutput, "size">): Promise<void>;
  /** Bytes that writing takes on the disk at most, about: the file, its parts and a copy of it. */
  estimate(plan: FilmPlan, quality: Quality): number;
  /**
   * Writes the file: it has its name when it is whole. Throws what drawing, mixing and encoding
   * throw, and the signal's reason.
   */
  write(request: WriteRequest): Promise<WrittenOutput>;
}

/** A file's parts, the file joined from them, and a copy of it for people. */
export const TIMES_ON_DISK = 3;
/** Sound as it is mixed and unpacked meanwhile. */
export const SOUND_BYTES_PER_SECOND = 48_000 * (8 + 2 * 4);

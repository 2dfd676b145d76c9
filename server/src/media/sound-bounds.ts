import { probe } from "./ffmpeg.ts";
import { mediaError } from "./media-errors.ts";

/**
 * Telephones record at 8 kHz, the fastest converters at 384 kHz. Between them a second of a file is
 * a second of work.
 */
const LOWEST_RATE = 8000;
const HIGHEST_RATE = 384_000;
/** The largest layout that recorders write has 24 (ITU-R BS.2051, 22.2). */
const MOST_CHANNELS = 24;

/**
 * A song is kept in one channel while it is listened to: 12 MB a minute, and several times that
 * while it is worked out.
 */
export const LONGEST_SONG_SECONDS = 3600;
/** A whole ceremony. Longer than this nothing is decoded of a sound. */
export const LONGEST_SECONDS = 2 * 3600;

/** What ffprobe says of a file's first sound. */
export interface SoundStream {
  readonly channel_layout?: string;
  readonly channels?: number;
  readonly sample_rate?: string;
}

/** The first sound of a file; null where none can be read. */
export async function soundStream(path: string): Promise<SoundStream | null> {
  const entries = ["-select_streams", "a:0", "-show_entries", "stream=channel_layout,channels,sample_rate"];
  const answer = await probe(path, entries).catch(() => null);
  return ((answer?.["streams"] ?? []) as SoundStream[])[0] ?? null;
}

/**
 * Refuses sound whose header would make it swell without end: at 8 samples a second, 100 kB are
 * three hours. Throws `sound-unusual`.
 */
export function checkSound({ channels, sample_rate }: SoundStream): void {
  const rate = Number(sample_rate);
  if (rate > 0 && (rate < LOWEST_RATE || rate > HIGHEST_RATE))
    throw mediaError("sample-rate-unusual", { rate, lowest: LOWEST_RATE, highest: HIGHEST_RATE });
  if (channels !== undefined && channels > MOST_CHANNELS)
    throw mediaError("too-many-channels", { channels, most: MOST_CHANNELS });
}

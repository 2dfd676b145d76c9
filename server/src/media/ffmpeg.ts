import { type ChildProcessByStdio, execFile, spawn } from "node:child_process";
import { chmod } from "node:fs/promises";
import { createRequire } from "node:module";
import path from "node:path";
import type { Readable, Writable } from "node:stream";
import { promisify } from "node:util";
import type { HummingTideError } from "@humming-tide/core";
import { present } from "@humming-tide/core/presence";
import { mediaError } from "./media-errors.ts";

const run = promisify(execFile);
const require = createRequire(import.meta.url);

export interface Ffmpeg {
  readonly ffmpeg: string;
  readonly ffprobe: string;
  /** Names of the encoders that it has. */
  readonly encoders: ReadonlySet<string>;
}

let found: Promise<Ffmpeg> | null = null;

/**
 * The ffmpeg to use: HUMMING_TIDE_FFMPEG (and _FFPROBE) where set, then the one on PATH, then the
 * one that comes with the packages; the first that can encode H.264 and AAC. Throws
 * `ffmpeg-missing` with what to install. The search is made once; a failed one again.
 */
export function findFfmpeg(): Promise<Ffmpeg> {
  found ??= search().catch((error: unknown) => {
    found = null;
    throw error;
  });
  return found;
}

async function search(): Promise<Ffmpeg> {
  const { HUMMING_TIDE_FFMPEG: ownFfmpeg, HUMMING_TIDE_FFPROBE: ownFfprobe } = process.env;
  // A path set by hand is meant: if it does not work, that is said, and nothing else is tried
  // behind the person's back.
  const ffmpegs = ownFfmpeg ? [ownFfmpeg] : ["ffmpeg", packagedPath("@ffmpeg-installer/ffmpeg")];
  const ffprobes = ownFfprobe ? [ownFfprobe] : ["ffprobe", packagedPath("@ffprobe-installer/ffprobe")];
  let encoders: ReadonlySet<string> = new Set();
  const ffmpeg = await firstThat(ffmpegs, async (program) => {
    encoders = await encodersOf(program);
    return encoders.has("libx264") && encoders.has("aac");
  });
  const ffprobe = await firstThat(ffprobes, async (program) =>
    (await run(program, ["-version"])).stdout.startsWith("ffprobe"),
  );
  if (ffmpeg && ffprobe) return { ffmpeg, ffprobe, encoders };
  throw mediaError("ffmpeg-missing", {
    program: ffmpeg ? "ffprobe" : "ffmpeg",
    places: (ffmpeg ? ffprobes : ffmpegs).filter((place) => place !== null),
  });
}

/** Each line of the list is the encoder's kind and abilities, its name and what it is. */
async function encodersOf(program: string): Promise<ReadonlySet<string>> {
  const { stdout } = await run(program, ["-hide_banner", "-encoders"]);
  return new Set([...stdout.matchAll(/^ [VAS]\S{5} (\S+)/gm)].map(([, name]) => present(name)));
}

function packagedPath(name: string): string | null {
  try {
    return (require(name) as { path: string }).path;
  } catch {
    return null;
  }
}

async function firstThat(
  programs: readonly (string | null)[],
  works: (program: string) => Promise<boolean>,
): Promise<string | null> {
  for (const program of programs) {
    if (!program) continue;
    // A packaged program may arrive without its run bit.
    if (program.includes("node_modules")) await chmod(program, 0o755).catch(() => undefined);
    if (await works(program).catch(() => false)) return program;
  }
  return null;
}

/**
 * Options that every call starts with: quiet, never asks, and opens nothing but files and pipes,
 * whatever an input names.
 */
const SAFE = ["-hide_banner", "-v", "error", "-nostdin"];
/**
 * The containers that media come in (identify.ts). ffmpeg tells a container by looking at the whole
 * file: a manifest or a list behind the first bytes of a clip would make it open other files. So
 * nothing but these formats is tried.
 */
const CONTAINERS = "mov,matroska,webm,mp3,aac,wav,flac,ogg";
const FENCE = ["-protocol_whitelist", "file,pipe", "-format_whitelist", CONTAINERS];

/**
 * Arguments that read a medium, which may be hostile. The prefix keeps a name like "concat:x" from
 * being read as a protocol. The path is made absolute, wherever ffmpeg is started.
 */
export const inputFile = (place: string): string[] => [...FENCE, "-i", `file:${path.resolve(place)}`];

/**
 * Arguments that read a file which this program has written itself: a list of parts, a mix, a
 * picture.
 */
export const ownFile = (place: string): string[] => [
  "-protocol_whitelist",
  "file,pipe",
  "-i",
  `file:${path.resolve(place)}`,
];

export interface FfmpegOptions {
  /** Ends ffmpeg; `finished` then rejects with the signal's reason. */
  readonly signal?: AbortSignal;
  /** Where it is started: for files that filters name. */
  readonly folder?: string;
  /** Ends ffmpeg after so long; `finished` then rejects with `time-limit`. */
  readonly limitMs?: number;
}

export interface RunningFfmpeg {
  readonly child: ChildProcessByStdio<Writable, Readable, Readable>;
  /**
   * Resolves with what it complained about; rejects with `ffmpeg-failed` where it ended badly or
   * was killed.
   */
  readonly finished: Promise<string>;
}

/** Starts ffmpeg. The caller owns the child and kills it in `finally`. */
export async function startFfmpeg(args: readonly string[], limits: FfmpegOptions = {}): Promise<RunningFfmpeg> {
  const { ffmpeg } = await findFfmpeg();
  limits.signal?.throwIfAborted();
  const child = spawn(ffmpeg, [...SAFE, ...args], {
    stdio: ["pipe", "pipe", "pipe"],
    ...(limits.folder === undefined ? {} : { cwd: limits.folder }),
  });
  let complaints = "";
  child.stderr.on("data", (chunk: Buffer) => {
    complaints = (complaints + chunk.toString()).slice(-4000);
  });
  const timeLimit = limits.limitMs === undefined ? null : AbortSignal.timeout(limits.limitMs);
  const ending = AbortSignal.any(
    [limits.signal, timeLimit].filter((signal) => signal !== undefined && signal !== null),
  );
  const kill = (): void => void child.kill("SIGKILL");
  ending.addEventListener("abort", kill, { once: true });
  const finished = new Promise<string>((resolve, reject) => {
    child.on("error", reject);
    child.on("close", (code, signal) => {
      ending.removeEventListener("abort", kill);
      if (code === 0) resolve(complaints);
      else if (limits.signal?.aborted) reject(limits.signal.reason as Error);
      else if (timeLimit?.aborted) reject(tookTooLong(present(limits.limitMs)));
      else
        reject(
          mediaError(
            "ffmpeg-failed",
            { ending: signal ?? `code ${code}`, why: withoutPaths(lastLine(complaints)) },
            { cause: new Error(complaints) },
          ),
        );
    });
  });
  // Whoever does not wait for the end (a cancelled job) must not bring the process down by it.
  finished.catch(() => undefined);
  child.stdin.on("error", () => undefined);
  return { child, finished };
}

const lastLine = (text: string): string => text.trim().split("\n").at(-1) ?? "";

/** Whoever hears of a failure needs not hear where files lie on this machine. */
export const withoutPaths = (text: string): string =>
  text.replace(/(?:file:)?(?:\/[^\s:'"]*)+\/[^\s:'"]+|file:[^\s:'"]+|(?:file:)?[A-Za-z]:\\[^\s:'"]+/g, "the file");

const tookTooLong = (limitMs: number): HummingTideError =>
  mediaError("reading-too-long", { limitSeconds: Math.round(limitMs / 1000) });

/** Headers and packets are read in seconds, also of files of many gigabytes. */
const PROBE_LIMIT_MS = 120_000;
const MOST_PROBED_BYTES = 1 << 28;

/**
 * ffprobe's answer as JSON. Throws `time-limit`, and what starting it throws where it cannot read
 * the file.
 */
export async function probe(place: string, args: readonly string[]): Promise<Record<string, unknown>> {
  const { ffprobe } = await findFfmpeg();
  const options = { maxBuffer: MOST_PROBED_BYTES, timeout: PROBE_LIMIT_MS, killSignal: "SIGKILL" } as const;
  try {
    const { stdout } = await run(
      ffprobe,
      ["-v", "error", ...FENCE, ...args, "-of", "json", `file:${path.resolve(place)}`],
      options,
    );
    return JSON.parse(stdout) as Record<string, unknown>;
  } catch (error) {
    if ((error as { killed?: boolean }).killed) throw tookTooLong(PROBE_LIMIT_MS);
    throw error;
  }
}

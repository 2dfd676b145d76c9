import { type ChildProcessByStdio, execFile, spawn } from "node:child_process";
import { chmod } from "node:fs/promises";
import { createRequire } from "node:module";
import type { Readable, Writable } from "node:stream";
import { promisify } from "node:util";
import { HummingTideError } from "@humming-tide/core";

const run = promisify(execFile);
const require = createRequire(import.meta.url);

export interface Ffmpeg {
  readonly ffmpeg: string;
  readonly ffprobe: string;
}

let found: Promise<Ffmpeg> | null = null;

/**
 * The ffmpeg to use: HUMMING_TIDE_FFMPEG (and _FFPROBE) where set, then the one on PATH, then the one that comes with the packages; the first
 * that can encode H.264 and AAC. Throws `ffmpeg-missing` with what to install. The search is made once; a failed one again.
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
  // A path set by hand is meant: if it does not work, that is said, and nothing else is tried behind the person's back.
  const ffmpegs = ownFfmpeg ? [ownFfmpeg] : ["ffmpeg", packagedPath("@ffmpeg-installer/ffmpeg")];
  const ffprobes = ownFfprobe ? [ownFfprobe] : ["ffprobe", packagedPath("@ffprobe-installer/ffprobe")];
  const ffmpeg = await firstThat(ffmpegs, async (program) => {
    const { stdout } = await run(program, ["-hide_banner", "-encoders"]);
    return /\blibx264\b/.test(stdout) && /\baac\b/.test(stdout);
  });
  const ffprobe = await firstThat(ffprobes, async (program) =>
    (await run(program, ["-version"])).stdout.startsWith("ffprobe"),
  );
  if (ffmpeg && ffprobe) return { ffmpeg, ffprobe };
  throw new HummingTideError(
    "ffmpeg-missing",
    `No usable ${ffmpeg ? "ffprobe" : "ffmpeg"} was found (with libx264 and aac; looked at: ${(ffmpeg ? ffprobes : ffmpegs).filter(Boolean).join(", ")}). ` +
      'Songs and export need it; pictures and their order work without. Install it ("apt install ffmpeg" on Debian) or set HUMMING_TIDE_FFMPEG, then start again.',
  );
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

/** Options that every call starts with: quiet, never asks, and opens nothing but files and pipes, whatever an input names. */
const SAFE = ["-hide_banner", "-v", "error", "-nostdin"];
/** Arguments that read a file which may be hostile. The prefix keeps a name like "concat:x" from being read as a protocol. */
export const inputFile = (path: string): string[] => ["-protocol_whitelist", "file,pipe", "-i", `file:${path}`];

export interface RunningFfmpeg {
  readonly child: ChildProcessByStdio<Writable, Readable, Readable>;
  /** Resolves with what it complained about; rejects with `ffmpeg-failed` where it ended badly or was killed. */
  readonly finished: Promise<string>;
}

/** Starts ffmpeg. The caller owns the child and kills it in `finally`. */
export async function startFfmpeg(args: readonly string[]): Promise<RunningFfmpeg> {
  const { ffmpeg } = await findFfmpeg();
  const child = spawn(ffmpeg, [...SAFE, ...args], { stdio: ["pipe", "pipe", "pipe"] });
  let complaints = "";
  child.stderr.on("data", (chunk: Buffer) => {
    complaints = (complaints + chunk.toString()).slice(-4000);
  });
  const finished = new Promise<string>((resolve, reject) => {
    child.on("error", reject);
    child.on("close", (code, signal) => {
      if (code === 0) resolve(complaints);
      else
        reject(
          new HummingTideError(
            "ffmpeg-failed",
            `ffmpeg ended with ${signal ?? `code ${code}`}: ${lastLine(complaints)}`,
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

/** ffprobe's answer as JSON. */
export async function probe(path: string, args: readonly string[]): Promise<Record<string, unknown>> {
  const { ffprobe } = await findFfmpeg();
  const { stdout } = await run(
    ffprobe,
    ["-v", "error", "-protocol_whitelist", "file,pipe", ...args, "-of", "json", `file:${path}`],
    {
      maxBuffer: 1 << 28,
    },
  );
  return JSON.parse(stdout) as Record<string, unknown>;
}

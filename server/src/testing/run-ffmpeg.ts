import { spawnSync } from "node:child_process";

/** Runs Debian's ffmpeg as an independent tool and gives back what it wrote to its output. */
export function ffmpeg(args: readonly string[], input?: Uint8Array): Buffer {
  const { status, stdout, stderr } = spawnSync("ffmpeg", ["-v", "error", "-y", ...args], { input, maxBuffer: 1 << 29 });
  if (status !== 0) throw new Error(`ffmpeg ${args.join(" ")}: ${stderr.toString()}`);
  return stdout;
}

import { spawnSync } from "node:child_process";
import { statSync } from "node:fs";
import path from "node:path";
import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt, present } from "@humming-tide/core/presence";
import { QUALITIES, type VideoContainer } from "@humming-tide/core/show";
import { rawVideoInput, VIDEO_FORMATS } from "@humming-tide/server/video";
import { openDemoFilm } from "./demo-film.ts";
import { wallSeconds } from "./measure.ts";

const FRAMES = 175;

/**
 * Each kind of video file at each quality: how near it is to what was drawn (ffmpeg's psnr, the
 * mean of all planes), how large it is, and how long encoding takes. 7 s of the demo at 1080p25,
 * with the noise of a camera laid over it, which paintings have not.
 */
export async function benchFormats(): Promise<void> {
  const film = await openDemoFilm(FRAMES);
  try {
    const { moving: plan, folder } = film;
    const [drawn, noisy] = [path.join(folder, "drawn.yuv"), path.join(folder, "noisy.yuv")];
    await film.writeFrames(drawn);
    ffmpeg([...rawVideoInput(plan), "-i", drawn, "-vf", "noise=alls=3:allf=t:all_seed=1", "-f", "rawvideo", noisy]);
    for (const container of Object.keys(VIDEO_FORMATS) as VideoContainer[])
      for (const quality of QUALITIES) {
        const format = VIDEO_FORMATS[container];
        const place = path.join(folder, `${container}-${quality}`);
        const encode = [...format.picture(plan.rate, quality), ...format.pictureFile, "-y", place];
        const seconds = await wallSeconds(() => void ffmpeg([...rawVideoInput(plan), "-i", noisy, ...encode]));
        const megabytes = (statSync(place).size / 1e6).toFixed(1);
        const name = `${container}, ${quality}`.padEnd(18);
        console.log(`  ${name} ${decibels(plan, place, noisy)} dB, ${megabytes} MB, ${seconds.toFixed(1)} s`);
      }
  } finally {
    await film.close();
  }
}

function decibels(plan: FilmPlan, film: string, reference: string): string {
  const compare = ["-lavfi", "[0:v]format=yuv420p[film];[film][1:v]psnr", "-f", "null", "-"];
  const said = ffmpeg(["-i", film, ...rawVideoInput(plan), "-i", reference, ...compare], "info");
  return itemAt(present(/average:(\d+\.\d)/.exec(said)), 1);
}

/** Gives what ffmpeg says. */
function ffmpeg(args: readonly string[], level = "error"): string {
  const { status, stderr } = spawnSync("ffmpeg", ["-v", level, "-nostdin", ...args]);
  if (status !== 0) throw new Error(stderr.toString());
  return stderr.toString();
}

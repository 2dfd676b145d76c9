import { readFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import type { ClipFacts, PictureFacts, StoredProposal } from "@humming-tide/contract";
import request from "supertest";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { CLIP_FILES } from "../media/clip-intake.ts";
import { PROPOSAL_FILE } from "../media/propose-clip.ts";
import { ffmpeg, numberedClip, stripedJpeg } from "../testing/index.ts";
import { openTestApp, type TestApp } from "../testing/test-app.ts";

let opened: TestApp;
let studio: TestApp["studio"];
let app: TestApp["app"];

beforeAll(async () => {
  opened = await openTestApp();
  ({ studio, app } = opened);
});
afterAll(() => opened.close());

const bringIn = async <Facts>(content: Buffer, name: string): Promise<Facts> =>
  (await studio.library.takeIn(Readable.from([content]), name)) as Facts;

const RATE = 25;
const [SECONDS, SHAKY_SECONDS, LEAP_SECONDS, CHEER_SECONDS] = [8, 0.8, 3, 5.5];
const [WIDTH, HEIGHT] = [320, 180];

/** A clip that shakes at first; then something leaps, and later many begin to clap. */
function eventfulClip(file: string): string {
  const frames = Buffer.alloc(WIDTH * HEIGHT * SECONDS * RATE);
  for (let k = 0; k < SECONDS * RATE; k++) {
    const time = k / RATE;
    const shake = time < SHAKY_SECONDS ? 9 : 0.4;
    const [shakeX, shakeY] = [shake * Math.sin(23 * time), shake * Math.cos(31 * time)];
    const left = 60 + 150 / (1 + Math.exp(-(time - LEAP_SECONDS) / 0.08));
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const [atX, atY] = [x + shakeX, y + shakeY];
        const scene = 120 + 45 * Math.sin(atX / 9) * Math.sin(atY / 13) + 30 * Math.sin((atX + 2 * atY) / 31);
        const isLeaper = x >= left && x < left + 40 && y > 60 && y < 140;
        frames[(k * HEIGHT + y) * WIDTH + x] = isLeaper ? 235 : scene;
      }
  }
  const sound = `anoisesrc=duration=${SECONDS}:amplitude=0.3:sample_rate=48000,volume='if(lt(t,${CHEER_SECONDS}),0.01,1)':eval=frame`;
  ffmpeg(
    [
      ...["-f", "rawvideo", "-pix_fmt", "gray", "-s", `${WIDTH}x${HEIGHT}`, "-r", String(RATE), "-i", "pipe:0"],
      ...["-f", "lavfi", "-i", sound, "-c:v", "libx264", "-pix_fmt", "yuv420p", "-c:a", "aac", "-shortest", file],
    ],
    frames,
  );
  return file;
}

describe("what is proposed for a clip", () => {
  it("is where it leaps and where many begin to clap, without the shaky start; once made, it stays", async () => {
    const file = eventfulClip(path.join(opened.folder, "leap.mp4"));
    const { sha256 } = await bringIn<ClipFacts>(await readFile(file), "leap.mp4");
    const { body } = await request(app).get(`/api/media/${sha256}/proposal`).expect(200);
    const { moments, start, end, stretches } = body as StoredProposal;
    const secondsOf = (kind: string): number => moments.find((moment) => moment.kind === kind)?.seconds ?? -1;
    expect(Math.abs(secondsOf("movement") - LEAP_SECONDS)).toBeLessThan(0.2);
    expect(Math.abs(secondsOf("crowd") - CHEER_SECONDS)).toBeLessThan(0.2);
    expect(start?.reason).toBe("shaky");
    expect(Math.abs((start?.seconds ?? 0) - SHAKY_SECONDS)).toBeLessThan(0.2);
    expect([end, stretches]).toEqual([null, []]);
    // It was looked through in its copy, which was waited for.
    const copy = studio.library.store.derivedPath(sha256, CLIP_FILES.proxy);
    expect(await studio.library.store.has(copy)).toBe(true);
    const stored = await readFile(studio.library.store.derivedPath(sha256, PROPOSAL_FILE), "utf8");
    expect(JSON.parse(stored)).toEqual(body);
  });

  it("is made again where its file is damaged, and is none for a picture", async () => {
    const file = numberedClip(path.join(opened.folder, "numbers.mp4"), "25");
    const { sha256 } = await bringIn<ClipFacts>(await readFile(file), "numbers.mp4");
    const { body } = await request(app).get(`/api/media/${sha256}/proposal`).expect(200);
    await studio.library.store.replaceDerived(sha256, PROPOSAL_FILE, "{}");
    expect((await request(app).get(`/api/media/${sha256}/proposal`).expect(200)).body).toEqual(body);
    const picture = await bringIn<PictureFacts>(await stripedJpeg(4), "quay.jpg");
    await request(app).get(`/api/media/${picture.sha256}/proposal`).expect(404);
    await request(app)
      .get(`/api/media/${"0".repeat(64)}/proposal`)
      .expect(404);
  });
});

describe("a picture with a clip in its file", () => {
  it("shows as the picture, and gives the clip as it was filmed", async () => {
    const clip = await readFile(numberedClip(path.join(opened.folder, "moving.mp4"), "25"));
    const facts = await bringIn<PictureFacts>(Buffer.concat([await stripedJpeg(5), clip]), "lantern.jpg");
    expect(facts).toMatchObject({ kind: "picture", width: 480, movingPart: { bytes: clip.length } });
    const { body } = await request(app).post(`/api/media/${facts.sha256}/moving-part`).expect(201);
    expect(body).toMatchObject({ kind: "clip", fileName: "lantern moving.mp4", durationSeconds: 3.6 });
    const original = await readFile(studio.library.store.originalPath((body as ClipFacts).sha256));
    expect(original.equals(clip)).toBe(true);
    const still = await bringIn<PictureFacts>(await stripedJpeg(6), "still.jpg");
    await request(app).post(`/api/media/${still.sha256}/moving-part`).expect(404);
  });
});

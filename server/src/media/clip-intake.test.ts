import { readFile, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import type { ClipFacts, ProxyState } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStudio, type Studio } from "../start-server.ts";
import { ffmpeg, temporaryFolder } from "../testing/index.ts";
import { probe } from "./ffmpeg.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;
beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"));
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

const at = (name: string): string => path.join(place.folder, name);
const picture = (size: string, rate: string, seconds: number): string[] => [
  ...["-f", "lavfi", "-i", `testsrc2=s=${size}:r=${rate}:d=${seconds}`],
];
const sound = (seconds: number): string[] => ["-f", "lavfi", "-i", `sine=f=440:r=44100:d=${seconds}`];
const H264 = ["-c:v", "libx264", "-preset", "ultrafast", "-pix_fmt", "yuv420p"];

async function takeIn(name: string): Promise<ClipFacts> {
  const { createReadStream } = await import("node:fs");
  const facts = await studio.library.takeIn(createReadStream(at(name)), name);
  if (facts.kind !== "clip") throw new Error(`${name} was taken for a ${facts.kind}`);
  return facts;
}

describe("facts of a clip", () => {
  it("are read from MP4 with sound", async () => {
    ffmpeg([...picture("320x180", "30000/1001", 2), ...sound(2), ...H264, "-c:a", "aac", "-shortest", at("plain.mp4")]);
    const facts = await takeIn("plain.mp4");
    expect(facts).toMatchObject({
      width: 320,
      height: 180,
      turnedDegrees: 0,
      frameRate: { num: 30_000, den: 1001 },
      variableRate: false,
      codec: "h264",
      sound: { channels: 1, sampleRate: 44_100 },
      remark: null,
    });
    expect(facts.durationSeconds).toBeCloseTo((60 * 1001) / 30_000, 3);
  });

  it("are read from WebM without sound", async () => {
    ffmpeg([...picture("200x300", "25", 1), "-c:v", "libvpx-vp9", "-cpu-used", "8", at("still.webm")]);
    expect(await takeIn("still.webm")).toMatchObject({
      width: 200,
      height: 300,
      codec: "vp9",
      sound: null,
      variableRate: false,
    });
  });

  it("tell frames that do not come evenly from those that do, by their times", async () => {
    // Every frame of the second half is dropped but the third: a phone in the dark does so.
    const uneven = "select='lt(n,25)+not(mod(n,3))'";
    ffmpeg([...picture("160x120", "25", 3), "-vf", uneven, "-vsync", "vfr", ...H264, at("uneven.mp4")]);
    const facts = await takeIn("uneven.mp4");
    expect(facts.variableRate).toBe(true);
    const rate = facts.frameRate.num / facts.frameRate.den;
    expect(rate).toBeGreaterThan(12);
    expect(rate).toBeLessThan(18);
  });

  it("are those of the clip as seen where metadata turns it, and so is its poster", async () => {
    // Left half red, right half blue; turned by a quarter clockwise, red is above. This writer
    // counts against the clock.
    const halves = "color=c=red:s=80x90:r=25:d=1[l];color=c=blue:s=80x90:r=25:d=1[r];[l][r]hstack";
    ffmpeg(["-filter_complex", halves, ...H264, at("flat.mov")]);
    ffmpeg(["-i", at("flat.mov"), "-c", "copy", "-metadata:s:v:0", "rotate=270", at("turned.mov")]);
    const facts = await takeIn("turned.mov");
    expect(facts).toMatchObject({ width: 90, height: 160, turnedDegrees: 90 });
    const { data, info } = await sharp(studio.library.store.derivedPath(facts.sha256, "working.jpg"))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const pixel = (x: number, y: number): number[] => [
      ...data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3),
    ];
    expect(pixel(45, 30)[0]).toBeGreaterThan(200);
    expect(pixel(45, 130)[2]).toBeGreaterThan(200);
  });

  it("name the camera and the time, and none where a camera without a clock wrote the beginning of time", async () => {
    const tags = [
      "-movflags",
      "use_metadata_tags",
      "-metadata",
      "com.example.make=Lanternworks",
      "-metadata",
      "com.example.model=Quay One",
    ];
    ffmpeg([
      ...picture("64x64", "25", 0.4),
      ...H264,
      ...tags,
      "-metadata",
      "creation_time=2031-06-21T19:04:11Z",
      at("dated.mov"),
    ]);
    expect(await takeIn("dated.mov")).toMatchObject({
      capturedAt: "2031-06-21T19:04:11",
      isUniversal: true,
      zoneMinutes: null,
      camera: "Lanternworks Quay One",
    });
    // The camera's own local time goes before universal time.
    const local = ["-movflags", "use_metadata_tags", "-metadata", "com.example.creationdate=2031-06-21T21:04:11+0200"];
    const universal = ["-metadata", "creation_time=2031-06-21T19:04:11Z"];
    ffmpeg([...picture("68x64", "25", 0.4), ...H264, ...local, ...universal, at("local.mov")]);
    expect(await takeIn("local.mov")).toMatchObject({
      ...{ capturedAt: "2031-06-21T21:04:11", isUniversal: false, zoneMinutes: 120 },
    });
    ffmpeg([
      ...picture("66x64", "25", 0.4),
      ...H264,
      "-metadata",
      "creation_time=1970-01-01T00:00:00Z",
      at("clockless.mov"),
    ]);
    expect(await takeIn("clockless.mov")).toMatchObject({ capturedAt: null, camera: "" });
  });
});

describe("what is no clip", () => {
  it("is a song where an MP4 holds only sound, also with a cover picture", async () => {
    ffmpeg([...sound(3), "-c:a", "aac", at("song.mp4")]);
    const { createReadStream } = await import("node:fs");
    expect((await studio.library.takeIn(createReadStream(at("song.mp4")), "song.mp4")).kind).toBe("song");
  });

  it("is refused where it is cut off before its index, or holds nothing", async () => {
    const { Readable } = await import("node:stream");
    const whole = await readFile(at("plain.mp4"));
    for (const content of [whole.subarray(0, whole.length / 3), whole.subarray(0, 40)]) {
      await expect(studio.library.takeIn(Readable.from([content]), "short.mp4")).rejects.toThrow(
        /damaged|cut short|neither/,
      );
    }
  });
});

describe("the playable copy", () => {
  it("is made as a job: H.264 and AAC, upright, evenly spaced, of the clip's length, and survives being asked for twice", async () => {
    const clips = await Promise.all(["plain.mp4", "still.webm", "uneven.mp4", "turned.mov"].map(takeIn));
    const hashes = clips.map(({ sha256 }) => sha256);
    await studio.proxies.start();
    for (let i = 0; i < 200 && !(await studio.proxies.states(hashes)).every(({ state }) => state === "done"); i++) {
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    expect((await studio.proxies.states(hashes)).map(({ state, error }) => [state, error])).toEqual(
      clips.map(() => ["done", null]),
    );
    for (const clip of clips) {
      const proxy = studio.library.store.derivedPath(clip.sha256, "proxy.mp4");
      const { streams, format } = (await probe(proxy, ["-show_streams", "-show_format"])) as {
        streams: { codec_name: string; width?: number; height?: number; pix_fmt?: string }[];
        format: { duration: string };
      };
      expect(streams[0]).toMatchObject({
        codec_name: "h264",
        pix_fmt: "yuv420p",
        width: clip.width,
        height: clip.height,
      });
      expect(streams[1]?.codec_name).toBe(clip.sound ? "aac" : undefined);
      expect(Math.abs(Number(format.duration) - clip.durationSeconds)).toBeLessThan(0.15);
    }
  });

  it("says why where it cannot be made, and is made again when the file comes in again", async () => {
    const clip = await takeIn("plain.mp4");
    await rm(studio.library.store.originalPath(clip.sha256));
    await rm(studio.library.store.derivedPath(clip.sha256, "proxy.mp4"));
    const reaches = async (wanted: string): Promise<ProxyState> => {
      for (let i = 0; i < 200; i++) {
        const [state] = await studio.proxies.states([clip.sha256]);
        if (present(state).state === wanted) return present(state);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      throw new Error(`The copy did not become ${wanted} within ten seconds.`);
    };
    expect((await reaches("failed")).error).toMatch(/not in the data folder|No such file|ended with/);
    await takeIn("plain.mp4");
    expect((await reaches("done")).error).toBeNull();
  });

  it("of a clip is given to one maker only, however many ask at once", async () => {
    const hashes = (await Promise.all(["plain.mp4", "still.webm", "uneven.mp4"].map(takeIn))).map(
      ({ sha256 }) => sha256,
    );
    const { proxies } = studio.stores;
    for (const sha256 of hashes) await proxies.ask(sha256);
    const claimed = await Promise.all(Array.from({ length: 9 }, () => proxies.jobs.claimNext(Date.now() + 30_000)));
    expect(claimed.filter((sha256) => sha256 !== null).sort()).toEqual(hashes.toSorted());
    for (const sha256 of hashes) await proxies.jobs.end(sha256, { state: "done", step: "Done", error: null });
  });

  it("comes to its place also where the clip's folder is made again meanwhile", async () => {
    const { store } = studio.library;
    const of = "f".repeat(64);
    await store.addDerived(of, async (folder) => {
      await writeFile(path.join(folder, "slow.txt"), "slow");
      await store.derive(of, (other) => writeFile(path.join(other, "quick.txt"), "quick"));
    });
    expect(await readFile(store.derivedPath(of, "slow.txt"), "utf8")).toBe("slow");
    expect(await readFile(store.derivedPath(of, "quick.txt"), "utf8")).toBe("quick");
  });
});

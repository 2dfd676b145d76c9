import { readdir, rm } from "node:fs/promises";
import path from "node:path";
import type { IntakeFile, LibrarySong, SavedShow, SongFacts } from "@humming-tide/contract";
import { readMarks } from "@humming-tide/core/interchange";
import { itemAt, present } from "@humming-tide/core/presence";
import { newShowDocument, newShowSong } from "@humming-tide/core/show";
import request from "supertest";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { PreparingMedium } from "../media/media-library.ts";
import { clickSong, ffmpeg, monoWav, stripedJpeg } from "../testing/index.ts";
import { outsideOf } from "../testing/outside-of.ts";
import { openTestApp, type TestApp } from "../testing/test-app.ts";
import { createApp } from "./app.ts";

let opened: TestApp;
let studio: TestApp["studio"];
let app: TestApp["app"];

beforeAll(async () => {
  opened = await openTestApp();
  ({ studio, app } = opened);
});
afterAll(() => opened.close());

const newShow = async (): Promise<SavedShow> =>
  (await request(app).post("/api/shows").send({ title: "Regatta" })).body as SavedShow;

/** Brings a file into a show of its own, as a page does: announced, then sent. */
async function upload(content: Buffer, path: string): Promise<{ status: number; body: unknown }> {
  const { id: showId } = await newShow();
  const files = [{ path, bytes: content.length, modifiedMs: 1 }];
  const [announced] = (await request(app).post(`/api/shows/${showId}/intake`).send({ files }).expect(200))
    .body as IntakeFile[];
  return request(app)
    .put(`/api/shows/${showId}/intake/${present(announced).id}`)
    .send(content);
}

async function taken(content: Buffer, path: string): Promise<{ body: unknown }> {
  const answer = await upload(content, path);
  expect(answer.status).toBe(201);
  return answer;
}

describe("the songs of all shows", () => {
  it("are listed with what is known and was noted, and counted in shows", async () => {
    const { sha256 } = (await taken(clickSong(20).wav, "Harbour waltz.wav")).body as SongFacts;
    const listed = async (): Promise<LibrarySong> =>
      present(
        ((await request(app).get("/api/songs").expect(200)).body as LibrarySong[]).find(
          (song) => song.sha256 === sha256,
        ),
      );
    expect(await listed()).toMatchObject({
      ...{ title: "Harbour waltz", fileName: "Harbour waltz.wav", steady: true },
      ...{ tags: [], isFavourite: false, showCount: 0 },
    });
    const notes = { title: "Waltz", tags: ["slow", "slow", "strings"], isFavourite: true };
    await request(app).put(`/api/songs/${sha256}/notes`).send(notes).expect(200);
    const show = await newShow();
    const document = {
      ...show.document,
      songs: [newShowSong({ id: "song 1", sha256, fileName: "Harbour waltz.wav" })],
    };
    await request(app).put(`/api/shows/${show.id}`).set("If-Match", `"${show.revision}"`).send(document).expect(200);
    expect(await listed()).toMatchObject({
      title: "Waltz",
      tags: ["slow", "strings"],
      isFavourite: true,
      showCount: 1,
    });
    await request(app)
      .put(`/api/songs/${"0".repeat(64)}/notes`)
      .send(notes)
      .expect(404);
    await request(app)
      .put(`/api/songs/${sha256}/notes`)
      .send({ ...notes, title: " " })
      .expect(400);
  });

  it("are given as WAV with markers as cue points, which another program reads; nothing is left behind", async () => {
    const { sha256, durationSeconds } = (await taken(clickSong(6).wav, "cues.wav")).body as SongFacts;
    const markers = [{ seconds: 1.5, name: "Lanterns", kind: "section" }];
    const { body } = await request(app)
      .post(`/api/songs/${sha256}/marked-wav`)
      .send({ markers })
      .responseType("blob")
      .expect(200)
      .expect("Content-Type", /wav/);
    expect(readMarks(body as Buffer, "cues.wav").markers).toEqual(markers);
    const decoded = ffmpeg(["-i", "-", "-f", "s16le", "-"], body as Buffer);
    expect(decoded.length / 4 / 48_000).toBeCloseTo(durationSeconds, 2);
    await expect.poll(() => readdir(studio.folder.unfinished)).toEqual([]);
    await request(app).post(`/api/songs/..%2f..%2fx/marked-wav`).send({ markers }).expect(404);
  });
});

describe("bringing in files", () => {
  it("takes a picture, gives its derived files, and notices the same one under another name", async () => {
    const content = await stripedJpeg(1);
    const first = await taken(content, "crews 1.jpg");
    expect(first.body).toMatchObject({
      kind: "picture",
      width: 480,
      height: 320,
      fileName: "crews 1.jpg",
      mime: "image/jpeg",
    });
    const again = await taken(content, "another name.png");
    expect(again.body).toMatchObject({
      sha256: (first.body as { sha256: string }).sha256,
      fileName: "another name.png",
    });
    const { sha256 } = first.body as { sha256: string };
    await request(app).get(`/api/media/${sha256}/thumbnail`).expect(200).expect("Content-Type", /webp/);
    await request(app).get(`/api/media/${sha256}/working`).expect(200).expect("Content-Type", /jpeg/);
  });

  it.each([
    ["emoji 🏮 and “quotes”.jpg", "emoji 🏮 and “quotes”.jpg"],
    ["פנסים.jpg", "פנסים.jpg"],
    ["../../climbs.jpg", "climbs.jpg"],
    [`${"long ".repeat(60)}.jpg`, `${"long ".repeat(60)}.jpg`],
    [`it's "quoted", =1+1; \u202Ebackwards.jpg`, `it's "quoted", =1+1; \u202Ebackwards.jpg`],
    ["C:\\boats\\one.jpg", "one.jpg"],
  ])("keeps the name %j as %j", async (name, kept) => {
    const { body } = await taken(await stripedJpeg(2), name);
    expect(body).toMatchObject({ fileName: kept });
  });

  const { wav, beatSeconds } = clickSong(16, 100, 0.737);
  it.each([
    ["wav", []],
    ["flac", []],
    ["mp3", ["-b:a", "128k"]],
    ["ogg", ["-c:a", "libvorbis"]],
    ["m4a", ["-c:a", "aac", "-b:a", "128k"]],
  ])("hears the beats of the same song at the same times as %s", async (format, options) => {
    const file = path.join(opened.folder, `song.${format}`);
    ffmpeg(["-i", "-", ...options, file], wav);
    const { readFile } = await import("node:fs/promises");
    const { body } = await taken(await readFile(file), `song.${format}`);
    const song = body as SongFacts;
    expect(song).toMatchObject({ kind: "song", steady: true });
    expect(song.tempoBpm).toBeCloseTo(100, 0);
    const { beats } = await studio.library.analysis(song.sha256);
    for (const truth of beatSeconds.slice(1, -1)) {
      expect(Math.min(...beats.map((beat) => Math.abs(beat.seconds - truth)))).toBeLessThan(0.01);
    }
  });

  it("listens again to a song that an older version of the program heard, once", async () => {
    const song = (await taken(wav, "song.wav")).body as SongFacts;
    const place = studio.library.store.derivedPath(song.sha256, "analysis.json");
    const now = await studio.library.analysis(song.sha256);
    const { writeFile } = await import("node:fs/promises");
    await writeFile(place, JSON.stringify({ durationSeconds: 16, steady: false, beats: [], bars: [] }));
    // Another process on the same folder, started with the new program.
    const { MediaLibrary } = await import("../media/media-library.ts");
    const library = new MediaLibrary({ store: studio.library.store, ...studio.stores, background: studio.background });
    const [first, second] = await Promise.all([library.analysis(song.sha256), library.analysis(song.sha256)]);
    expect(first).toEqual(now);
    expect(second).toEqual(now);
    await expect(library.analysis("0".repeat(64))).rejects.toThrow(/not in the data folder/);
  });

  it("tells how far it is when it makes the files of a song again", async () => {
    const song = (await taken(wav, "song.wav")).body as SongFacts;
    await rm(studio.library.store.derivedPath(song.sha256, ""), { recursive: true });
    const told: PreparingMedium[] = [];
    const hear = (preparing: PreparingMedium): void => void told.push(preparing);
    studio.library.on("preparing", hear);
    await studio.library.analysis(song.sha256);
    studio.library.off("preparing", hear);
    expect(told[0]).toMatchObject({ sha256: song.sha256, fileName: "song.wav", progress: null, isDone: false });
    expect(told.at(-1)).toMatchObject({ isDone: true });
    const shares = told.slice(1, -1).map(({ progress }) => present(progress));
    expect(shares.length).toBeGreaterThanOrEqual(5);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares[0]).toBeGreaterThan(0);
    expect(shares.at(-1)).toBeLessThanOrEqual(1);
  });

  it("refuses what is not what it says, with the reason, and leaves nothing behind", async () => {
    const jpeg = await stripedJpeg(9, 1600, 1200);
    const refused: [Buffer, string, RegExp][] = [
      [Buffer.alloc(0), "empty.jpg", /empty/],
      [Buffer.from("Bring the lanterns.\n".repeat(50)), "letter.jpg", /neither a picture nor a clip nor a song/],
      [jpeg.subarray(0, 30_000), "short.jpg", /cut short/],
      [
        Buffer.concat([Buffer.from("ID3\x04\0\0\0\0\0\x0a"), Buffer.alloc(4000, 0xff)]),
        "noise.mp3",
        /cannot be decoded|no sound|neither/,
      ],
      [monoWav(new Float32Array(4410), 44_100), "tick.wav", /at least 0.5 s/],
    ];
    const before = await readdir(path.join(opened.folder, "data", "media"), { recursive: true });
    for (const [content, name, reason] of refused) {
      const { status, body } = await upload(content, name);
      expect([name, status]).toEqual([name, 400]);
      expect((body as { message: string }).message).toMatch(reason);
    }
    expect(await readdir(path.join(opened.folder, "data", "media"), { recursive: true })).toEqual(before);
    expect(await readdir(studio.folder.unfinished)).toEqual([]);
  });

  it("takes songs with something wrong and says what: silent, one second, cut short", async () => {
    const silent = await taken(monoWav(new Float32Array(44_100 * 6), 44_100), "silent.wav");
    expect((silent.body as SongFacts).remark).toMatch(/silent/);
    const second = await taken(clickSong(1).wav, "second.wav");
    expect(second.body).toMatchObject({ steady: false, durationSeconds: 1 });
    const mp3 = ffmpeg(["-i", "-", "-b:a", "128k", "-f", "mp3", "-"], wav);
    const short = await taken(mp3.subarray(0, mp3.length / 2), "short.mp3");
    expect((short.body as SongFacts).durationSeconds).toBeLessThan(9);
  });

  it("refuses content that was not announced", async () => {
    const { id } = await newShow();
    await request(app)
      .put(`/api/shows/${id}/intake/nothing`)
      .send(await stripedJpeg(1))
      .expect(404);
    await request(app).post("/api/shows/nobody/intake").send({ files: [] }).expect(404);
    await request(app)
      .post(`/api/shows/${id}/intake`)
      .send({ files: [{ path: "" }] })
      .expect(400);
  });
});

describe("saving shows", () => {
  it("keeps every revision and refuses a save over a newer one, without writing anything", async () => {
    const show = await newShow();
    const save = (revision: number, title: string) =>
      request(app)
        .put(`/api/shows/${show.id}`)
        .set("If-Match", `"${revision}"`)
        .send({ ...show.document, title });
    await save(1, "First").expect(200, { revision: 2 });
    const { body } = await save(1, "Second window").expect(409);
    expect(body).toMatchObject({ code: "show-changed" });
    expect(((await request(app).get(`/api/shows/${show.id}`)).body as SavedShow).document.title).toBe("First");
  });

  it("refuses documents that are not valid and names the place", async () => {
    const show = await newShow();
    const broken = { ...newShowDocument("x"), frameRate: { num: 0, den: 1 } };
    const { body } = await request(app).put(`/api/shows/${show.id}`).set("If-Match", "1").send(broken).expect(400);
    expect((body as { message: string }).message).toContain("frameRate.num");
    await request(app).put(`/api/shows/${show.id}`).send(show.document).expect(400);
  });

  it("says why there is no film to export yet", async () => {
    const show = await newShow();
    const { body } = await request(app)
      .post(`/api/shows/${show.id}/exports`)
      .send({ outputIds: ["main"] })
      .expect(400);
    expect(body).toMatchObject({ code: "no-song" });
    const gone = await request(app)
      .post(`/api/shows/${show.id}/exports`)
      .send({ outputIds: ["nobody"] })
      .expect(404);
    expect(gone.body).toMatchObject({ code: "output-unknown" });
    await request(app).post(`/api/shows/${show.id}/exports`).expect(400);
    await request(app).get(`/api/shows/${show.id}/film-files/exe`).expect(404);
    await request(app).get(`/api/shows/${show.id}/film-files/pdf`).expect(400);
  });
});

describe("the same file at the same time", () => {
  it("comes in twice and is stored once", async () => {
    const content = await stripedJpeg(33, 900, 600);
    const answers = await Promise.all(Array.from({ length: 4 }, (_, i) => upload(content, `twin ${i}.jpg`)));
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201, 201]);
    const { sha256 } = itemAt(answers, 0).body as { sha256: string };
    await request(app).get(`/api/media/${sha256}/working`).expect(200);
  });
});

describe("who may ask", () => {
  it("answers every address of its own, but no foreign name, when it listens on all", async () => {
    const open = createApp({
      ...studio,
      ...outsideOf(studio),
      hostNames: new Set(["0.0.0.0"]),
      version: "test",
    });
    await request(open).get("/api/shows").set("Host", "192.168.7.20:4810").expect(200);
    await request(open).get("/api/shows").set("Host", "evil.example:4810").expect(403);
  });

  it("answers no other names and no other pages", async () => {
    await request(app).get("/api/shows").set("Host", "evil.example").expect(403);
    await request(app).post("/api/shows").set("Origin", "http://evil.example").send({ title: "x" }).expect(403);
  });

  it.each([
    "/api/media/..%2F..%2Fhumming-tide.sqlite/thumbnail",
    `/api/media/${"a".repeat(64)}/thumbnail`,
    "/api/media/x/sound",
    "/api/nothing",
    "/api/shows/nobody",
  ])("gives nothing for %s", async (address) => {
    const { status, body } = await request(app).get(address);
    expect(status).toBe(404);
    expect((body as { message: string }).message.length).toBeGreaterThan(10);
  });
});

it("sends the shelf's list beside the page's code, and asks for it with no other page", async () => {
  const shelf = await request(app).get("/");
  const [, address] = present(/^<([^>]+)>; rel=preload; as=fetch/.exec(shelf.headers["link"] as string));
  expect((await request(app).get(present(address)).expect(200)).body).toBeInstanceOf(Array);
  expect((await request(app).get("/shows/one/score")).headers["link"]).toBeUndefined();
});

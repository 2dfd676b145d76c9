import { once } from "node:events";
import { mkdir, readFile, rm, writeFile } from "node:fs/promises";
import { connect, type Socket } from "node:net";
import path from "node:path";
import type { IntakeFile, MediaFacts, SavedShow, ShowSummary } from "@humming-tide/contract";
import { itemAt, present } from "@humming-tide/core/presence";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import express from "express";
import sqlite3 from "sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ZipFile } from "yazl";
import { openStudio, type Studio } from "../start-server.ts";
import { clickSong, createShow, ffmpeg, monoWav, sendFile, stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { longestHold } from "../testing/longest-hold.ts";
import { outsideOf } from "../testing/outside-of.ts";
import { openTestServer, type TestServer } from "../testing/test-server.ts";
import { createApp } from "./app.ts";
import { closeIdleBodies } from "./request-guards.ts";

/** Nothing that one asks for may hold another for longer. */
const LONGEST_HOLD_MS = 100;

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;
let server: TestServer;
let address: string;

beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"), { isServer: true });
  const services = { ...studio, ...outsideOf(studio), hostNames: new Set(["127.0.0.1"]), version: "test" };
  server = await openTestServer(createApp(services));
  address = server.address;
  // The threads are there before anything is measured.
  await createShow(address);
});
afterAll(async () => {
  await server.close();
  await studio.close();
  await place.remove();
});

const portOf = (one: TestServer): number => Number(new URL(one.address).port);

const load = async (id: string): Promise<SavedShow> =>
  (await (await fetch(`${address}/api/shows/${id}`)).json()) as SavedShow;

const ATTEMPTS = 3;

/**
 * Does something three times. At least once the server's thread must be held by no more than its
 * work.
 */
async function expectNoHold<T>(what: string, work: (attempt: number) => Promise<T>): Promise<T[]> {
  const answers: T[] = [];
  let shortestMs = Number.POSITIVE_INFINITY;
  for (let attempt = 0; attempt < ATTEMPTS; attempt++) {
    const { answer, holdMs } = await longestHold(() => work(attempt));
    answers.push(answer);
    shortestMs = Math.min(shortestMs, holdMs);
  }
  expect([what, shortestMs < LONGEST_HOLD_MS]).toEqual([what, true]);
  return answers;
}

const put = (id: string, body: string | Uint8Array<ArrayBuffer>, revision = 1): Promise<Response> =>
  fetch(`${address}/api/shows/${id}`, {
    method: "PUT",
    headers: { "Content-Type": "application/json", "If-Match": `"${revision}"` },
    body: body,
  });

describe("a file that is not what it pretends", () => {
  const SECRET = "the-neighbours-wedding";

  it("reads no other file of the machine: manifests and lists behind a clip's first bytes", async () => {
    const secret = path.join(place.folder, `${SECRET}.mp4`);
    ffmpeg(["-f", "lavfi", "-i", "testsrc=size=64x64:rate=25:duration=1", "-pix_fmt", "yuv420p", secret]);
    const dash = `<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011" profiles="urn:mpeg:dash:profile:isoff-on-demand:2011" type="static" mediaPresentationDuration="PT1S"><Period><AdaptationSet mimeType="video/mp4"><Representation id="1" bandwidth="1"><BaseURL>file:${secret}</BaseURL></Representation></AdaptationSet></Period></MPD>`;
    const concat = `ffconcat version 1.0\nfile '${secret}'\n`;
    const playlist = `#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile:${secret}\n#EXT-X-ENDLIST\n`;
    const box = Buffer.from("\0\0\0\x18ftypmp42\0\0\0\0mp42isom", "latin1");
    const matroska = Buffer.from("1a45dfa3a3428682", "hex");
    const showId = await createShow(address);
    let number = 0;
    for (const [magic, text] of [box, matroska, Buffer.from("ID3\x03\0\0\0\0\0\0"), Buffer.from("OggS")].flatMap(
      (first) => [dash, concat, playlist].map((content) => [first, content] as const),
    )) {
      for (const content of [Buffer.concat([magic, Buffer.from(`\n${text}`)]), Buffer.from(text)]) {
        const { status, body } = await sendFile(address, showId, content, `clip ${++number}.mp4`);
        expect(status).toBeGreaterThanOrEqual(400);
        expect(JSON.stringify(body)).not.toContain(SECRET);
        expect(JSON.stringify(body)).not.toContain(place.folder);
      }
    }
    expect((await (await fetch(`${address}/api/songs`)).json()) as unknown[]).toEqual([]);
  });

  it("is not drawn by a loader that reads further files, and no refusal says where files lie", async () => {
    const showId = await createShow(address);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><image href="file:///etc/hostname"/></svg>`;
    for (const [name, content] of [
      ["a.svg", Buffer.from(svg)],
      ["b.jpg", Buffer.from(`\n\n${svg}`)],
      ["c.png", Buffer.concat([Buffer.from("89504e470d0a1a0a", "hex"), Buffer.from(svg)])],
      ["d.jpg", Buffer.concat([Buffer.from("ffd8ffe0", "hex"), Buffer.alloc(4000, 1)])],
      ["e.mp3", Buffer.concat([Buffer.from("ID3\x04\0\0\0\0\0\x0a"), Buffer.alloc(4000, 0xff)])],
      ["f.mp4", Buffer.concat([Buffer.from("\0\0\0\x18ftypmp42\0\0\0\0mp42isom", "latin1"), Buffer.alloc(4000, 3)])],
    ] as const) {
      const { status, body } = await sendFile(address, showId, content, name);
      expect([name, status]).toEqual([name, 400]);
      expect(body.message).not.toMatch(/\/tmp|unfinished|file:\/|humming-tide-test/);
    }
  });

  it("does not swell: sound of 8 samples a second, of a million, of too many channels, of hours", async () => {
    const showId = await createShow(address);
    const header = (rate: number, channels: number): Buffer => {
      const wav = monoWav(new Float32Array(50_000), 44_100);
      wav.writeUInt16LE(channels, 22);
      wav.writeUInt32LE(rate, 24);
      wav.writeUInt32LE(rate * 2 * channels, 28);
      wav.writeUInt16LE(2 * channels, 32);
      return wav;
    };
    for (const [rate, channels] of [
      [8, 1],
      [7999, 1],
      [1_000_000, 1],
      [48_000, 30],
    ] as const) {
      const { status, body } = await sendFile(address, showId, header(rate, channels), `${rate} ${channels}.wav`);
      expect([rate, channels, status]).toEqual([rate, channels, 400]);
      expect(body.message).toMatch(/taken in|cannot be decoded/);
    }
    const long = ffmpeg([
      "-f",
      "lavfi",
      "-i",
      "anullsrc=r=8000:cl=mono",
      "-t",
      "3700",
      "-c:a",
      "flac",
      "-f",
      "flac",
      "-",
    ]);
    const { status, body } = await sendFile(address, showId, long, "long.flac");
    expect([status, body.message]).toEqual([400, expect.stringMatching(/up to 60 minutes, but this one has 62/)]);
  });

  it("is not worked on when whoever sent it has gone", async () => {
    const showId = await createShow(address);
    const wav = clickSong(240, 121).wav;
    const files = [{ path: "left.wav", bytes: wav.length, modifiedMs: 1 }];
    const announced = await fetch(`${address}/api/shows/${showId}/intake`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ files }),
    });
    const [{ id }] = (await announced.json()) as [IntakeFile];
    const leaving = new AbortController();
    const sending = fetch(`${address}/api/shows/${showId}/intake/${id}`, {
      method: "PUT",
      body: new Uint8Array(wav),
      signal: leaving.signal,
    });
    setTimeout(() => leaving.abort(), 1500);
    await expect(sending).rejects.toThrow();
    // It comes in again as if nothing had been: the first time ended without its facts.
    await expect.poll(async () => (await (await fetch(`${address}/api/songs`)).json()) as unknown[]).toEqual([]);
    expect((await sendFile(address, showId, clickSong(6, 121).wav, "stays.wav")).status).toBe(201);
  });
});

describe("a text that is meant to hold the server", () => {
  it("is refused for its depth, its size or its numbers, and holds nobody meanwhile", async () => {
    const show = newShowDocument("x");
    const slides = Array.from({ length: 5000 }, (_, i) =>
      newSlide({ id: `s${i}`, sha256: "a".repeat(64), fileName: "f" }),
    );
    let id = "";
    const cases: [string, string | Uint8Array<ArrayBuffer>, number][] = [
      ["10 MB of [", new Uint8Array(10_000_000).fill(0x5b), 400],
      ['10 MB of {"a":', `{"a":`.repeat(2_000_000), 400],
      ["no JSON", "lanterns", 400],
      ["a frame in eleven days", JSON.stringify({ ...show, frameRate: { num: 1, den: 1_000_000 } }), 400],
      ["a million frames a second", JSON.stringify({ ...show, frameRate: { num: 1_000_000, den: 1 } }), 400],
      ["a number beyond all", JSON.stringify(show).replace('"seed":1', '"seed":1e400'), 400],
      ["too many slides", JSON.stringify({ ...show, slides: [...slides, slides[0]] }), 400],
      ["5,000 slides", JSON.stringify({ ...show, slides }), 200],
    ];
    for (const [what, body, status] of cases) {
      const ids = await Promise.all(Array.from({ length: ATTEMPTS }, () => createShow(address)));
      const answers = await expectNoHold(what, (attempt) => put(itemAt(ids, attempt), body));
      expect([what, ...answers.map((answer) => answer.status)]).toEqual([what, status, status, status]);
      id = itemAt(ids, 0);
    }
    await expectNoHold("reading 5,000 slides", async () => (await fetch(`${address}/api/shows/${id}`)).arrayBuffer());
    // What others ask for with the same texts.
    for (const [method, where] of [
      ["POST", "/api/shows"],
      ["POST", `/api/shows/${id}/intake`],
      ["POST", "/api/templates"],
      ["PATCH", `/api/shows/${id}`],
    ] as const) {
      const headers = { "Content-Type": "application/json", "If-Match": '"2"' };
      const body = new Uint8Array(3_900_000).fill(0x5b);
      const answers = await expectNoHold(where, () => fetch(`${address}${where}`, { method, headers, body }));
      for (const { status } of answers) {
        expect(status).toBeGreaterThanOrEqual(400);
        expect(status).toBeLessThan(500);
      }
    }
  });

  it("holds nobody in a package, or as a show that takes long to lay", async () => {
    const packed = async (document: string): Promise<Uint8Array<ArrayBuffer>> => {
      const { createHash } = await import("node:crypto");
      const zip = new ZipFile();
      const documentSha256 = createHash("sha256").update(document).digest("hex");
      const manifest = { format: "humming-tide-package", version: 1, title: "x", documentSha256, media: [] };
      zip.addBuffer(Buffer.from(JSON.stringify(manifest)), "humming-tide.json");
      zip.addBuffer(Buffer.from(document), "show.json");
      zip.addBuffer(Buffer.from(""), "SHA256SUMS");
      zip.end();
      const chunks: Buffer[] = [];
      for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer);
      return new Uint8Array(Buffer.concat(chunks));
    };
    for (const document of ["[".repeat(15_000_000), `{"a":${"1,".repeat(3_000_000)}`]) {
      const body = await packed(document);
      expect(body.length).toBeLessThan(100_000);
      const answers = await expectNoHold("a package", async () =>
        (await fetch(`${address}/api/packages`, { method: "POST", body })).text(),
      );
      for (const answer of answers) expect(answer).toMatch(/"failed"/);
    }
    // A hundred songs, each heard a hundred times over: valid, and slow to lay.
    const showId = await createShow(address);
    const song = (await sendFile(address, showId, clickSong(30).wav, "song.wav")).body as unknown as MediaFacts;
    const picture = (await sendFile(address, showId, await stripedJpeg(1), "one.jpg")).body as unknown as MediaFacts;
    const document: ShowDocument = {
      ...newShowDocument("Long"),
      frameRate: { num: 240, den: 1 },
      slides: Array.from({ length: 3000 }, (_, i) => newSlide({ id: `s${i}`, sha256: picture.sha256, fileName: "f" })),
      songs: Array.from({ length: 100 }, (_, i) =>
        newShowSong({ id: `song ${i}`, sha256: song.sha256, fileName: "song.wav" }),
      ),
    };
    expect((await put(showId, JSON.stringify(document))).status).toBe(200);
    const answers = await expectNoHold("laying it", () => fetch(`${address}/api/shows/${showId}/film-files/csv`));
    for (const { status } of answers) expect([200, 422]).toContain(status);
  });
});

describe("an address that is meant to trip the server", () => {
  it.each([
    "/api/media/HASH/__proto__",
    "/api/media/HASH/constructor",
    "/api/media/HASH/toString",
    "/api/media/HASH/hasOwnProperty",
    "/api/media/HASH-spoken/__proto__",
    "/api/media/HASH/%00",
    "/api/media/%00/thumbnail",
    "/api/media/HASH/thumbnail%00.jpg",
    "/api/film-fonts/__proto__",
    "/api/film-fonts/%00",
    "/api/shows/SHOW/film-files/__proto__",
    "/api/shows/__proto__",
    "/api/shows/%00",
    "/api/shows/SHOW/revisions/1e400",
    "/api/shows/SHOW/revisions/-1",
    "/api/exports/__proto__/film",
    "/api/songs/%00",
    "/%00",
    "/%E0%A4%A",
  ])("is answered with 4xx: %s", async (form) => {
    const [show] = (await (await fetch(`${address}/api/shows`)).json()) as [ShowSummary];
    const { status } = await fetch(`${address}${form.replace("HASH", "a".repeat(64)).replace("SHOW", show.id)}`);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(status).toBeLessThan(500);
  });

  it("is answered where a number is none: the history from before nowhere", async () => {
    const id = await createShow(address);
    for (const before of ["1e400", "-5", "x", "", "9".repeat(400)])
      expect((await fetch(`${address}/api/shows/${id}/revisions?before=${before}`)).status).toBe(200);
    const { status } = await fetch(`${address}/api/shows/${id}`, {
      method: "PUT",
      headers: { "Content-Type": "application/json", "If-Match": `"${"9".repeat(400)}"` },
      body: "{}",
    });
    expect(status).toBe(400);
  });
});

describe("two windows at the same time", () => {
  it("announce the same files, six times at once, and each gets the same ids", async () => {
    const showId = await createShow(address);
    const files = Array.from({ length: 200 }, (_, i) => ({ path: `day/${i}.jpg`, bytes: 10 + i, modifiedMs: i }));
    const answers = await Promise.all(
      Array.from({ length: 6 }, () =>
        fetch(`${address}/api/shows/${showId}/intake`, {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ files }),
        }),
      ),
    );
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 200, 200, 200]);
    const lists = await Promise.all(answers.map(async (answer) => (await answer.json()) as IntakeFile[]));
    const ids = itemAt(lists, 0).map(({ id }) => id);
    expect(new Set(ids).size).toBe(200);
    for (const list of lists) expect(list.map(({ id }) => id)).toEqual(ids);
    expect((await (await fetch(`${address}/api/shows/${showId}/intake`)).json()) as unknown[]).toHaveLength(200);
  });

  it("send what changed, and the history has whole documents", async () => {
    const id = await createShow(address);
    const change = (revision: number, body: object): Promise<Response> =>
      fetch(`${address}/api/shows/${id}`, {
        method: "PATCH",
        headers: { "Content-Type": "application/json", "If-Match": `"${revision}"` },
        body: JSON.stringify(body),
      });
    const slide = newSlide({ id: "a", sha256: "b".repeat(64), fileName: "a.jpg" });
    const first = { values: { title: "Lanterns" }, lists: { slides: { order: ["a"], members: [slide] } } };
    expect(await (await change(1, first)).json()).toEqual({ revision: 2 });
    expect((await change(1, { values: { title: "Other" }, lists: {} })).status).toBe(409);
    for (const wrong of [
      { values: { frameRate: { num: 0, den: 1 } }, lists: {} },
      { values: { version: 3 }, lists: {} },
      { values: {}, lists: { slides: { order: ["nobody"], members: [] } } },
      { values: {}, lists: { nothing: { order: [], members: [] } } },
      { values: { slides: [] } },
      [],
    ])
      expect((await change(2, wrong)).status).toBe(400);
    const saved = await load(id);
    expect(saved).toMatchObject({ revision: 2, document: { title: "Lanterns", slides: [{ id: "a" }] } });
    const { document } = (await load(id)) as { document: ShowDocument };
    expect(await (await fetch(`${address}/api/shows/${id}/revisions/2`)).json()).toEqual(document);
  });
});

describe("a show that cannot be read", () => {
  const execute = (sql: string): Promise<void> =>
    new Promise((resolve, reject) => {
      const database = new sqlite3.Database(path.join(place.folder, "data", "humming-tide.sqlite"));
      database.configure("busyTimeout", 5000);
      database.exec(sql, (error) => database.close(() => (error ? reject(error) : resolve())));
    });
  const list = async (): Promise<ShowSummary[]> =>
    (await (await fetch(`${address}/api/shows`)).json()) as ShowSummary[];

  it("is listed as damaged or newer; all others work, and it goes back to what can be read", async () => {
    const whole = await createShow(address, "Whole");
    const damaged = await createShow(address, "Damaged");
    const newer = await createShow(address, "Newer");
    await put(damaged, JSON.stringify({ ...newShowDocument("Damaged"), client: "Ada" }));
    await execute(
      `UPDATE shows SET document = substr(document, 1, 200) WHERE id = '${damaged}';
       UPDATE show_revisions SET document = x'00' WHERE show_id = '${damaged}' AND revision = 2;
       UPDATE shows SET document = replace(document, '"version":', '"version":9') WHERE id = '${newer}'`,
    );
    for (const id of [damaged, newer]) expect((await fetch(`${address}/api/shows/${id}`)).status).toBe(422);
    const listed = await list();
    const of = (id: string): ShowSummary => present(listed.find((show) => show.id === id));
    expect(of(damaged)).toMatchObject({ title: "Damaged", state: "damaged", problem: expect.any(String) as string });
    expect(of(newer)).toMatchObject({ title: "Newer", state: "newer" });
    expect(of(whole)).toMatchObject({ problem: null });
    expect((await fetch(`${address}/api/shows/${whole}`)).status).toBe(200);
    expect((await fetch(`${address}/api/songs`)).status).toBe(200);
    const rescue = await (await fetch(`${address}/api/shows/${damaged}/rescue`)).json();
    expect(rescue).toMatchObject({ lastReadable: { revision: 1 } });
    expect((await (await fetch(`${address}/api/shows/${damaged}/raw`)).text()).length).toBe(200);
    expect((await fetch(`${address}/api/shows/${damaged}/package`)).status).toBe(200);
    expect(await (await fetch(`${address}/api/shows/${damaged}/restore`, { method: "POST" })).json()).toEqual({
      revision: 3,
    });
    expect(await load(damaged)).toMatchObject({ revision: 3, document: { title: "Damaged", client: "" } });
    expect((await list()).find((show) => show.id === damaged)).toMatchObject({ problem: null });
    expect((await fetch(`${address}/api/shows/${whole}/restore`, { method: "POST" })).status).toBe(409);
  });
});

describe("derived files that were deleted", () => {
  it("are made again when they are asked for: the whole folder, and single files of it", async () => {
    const showId = await createShow(address);
    const picture = (await sendFile(address, showId, await stripedJpeg(77), "p.jpg")).body.sha256;
    const song = (await sendFile(address, showId, clickSong(8).wav, "s.wav")).body.sha256;
    const derived = path.join(place.folder, "data", "derived");
    const get = async (where: string): Promise<number> => {
      const answer = await fetch(`${address}/api/media/${where}`);
      await answer.arrayBuffer();
      return answer.status;
    };
    const places = [
      ...["thumbnail", "working", "fill", "graphic"].map((file) => `${picture}/${file}`),
      `${picture}-90/thumbnail`,
      ...["sound", "analysis", "peaks", "speech"].map((file) => `${song}/${file}`),
    ];
    for (const where of places) expect([where, await get(where)]).toEqual([where, 200]);
    await rm(derived, { recursive: true });
    await mkdir(derived);
    for (const where of places) expect([where, await get(where)]).toEqual([where, 200]);
    for (const [of, file] of [
      [picture, "thumbnail.webp"],
      [picture, "fill.jpg"],
      [`${picture}-90`, "thumbnail.webp"],
      [song, "analysis.json"],
      [song, "sound.flac"],
    ] as const) {
      const before = await readFile(path.join(derived, of.slice(0, 2), of, file));
      await rm(path.join(derived, of.slice(0, 2), of, file));
      for (const where of places) expect([file, where, await get(where)]).toEqual([file, where, 200]);
      expect((await readFile(path.join(derived, of.slice(0, 2), of, file))).equals(before)).toBe(true);
    }
    // The same file again puts right what is missing, too.
    await rm(path.join(derived, picture.slice(0, 2), picture), { recursive: true });
    expect((await sendFile(address, showId, await stripedJpeg(77), "again.jpg")).status).toBe(201);
    await readFile(path.join(derived, picture.slice(0, 2), picture, "thumbnail.webp"));
    // Where the original is gone as well, that is said.
    await rm(path.join(place.folder, "data", "media", picture.slice(0, 2), picture));
    await rm(path.join(derived, picture.slice(0, 2), picture), { recursive: true });
    expect(await get(`${picture}/thumbnail`)).toBe(404);
    await writeFile(path.join(place.folder, "again.jpg"), await stripedJpeg(77));
  });
});

describe("a request that is never finished", () => {
  const HALF =
    "POST /api/shows HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 100\r\n\r\n{";
  const halfSent = (port: number): Socket => {
    const socket = connect(port, "127.0.0.1");
    socket.on("error", () => undefined);
    socket.write(HALF);
    return socket;
  };

  it("does not stop others from being answered", async () => {
    const sockets = Array.from({ length: 200 }, () => halfSent(portOf(server)));
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect((await fetch(`${address}/api/health`)).status).toBe(200);
    for (const socket of sockets) socket.destroy();
  });

  it("is closed when its body stands still, and one that goes on slowly is not", async () => {
    const slow = express();
    slow.use(closeIdleBodies(1000));
    slow.post("/{*place}", async (request, response) => {
      request.resume();
      await once(request, "end");
      response.end("whole");
    });
    const slowServer = await openTestServer(slow);
    const port = portOf(slowServer);
    const standing = halfSent(port);
    const going = halfSent(port);
    const answer = once(going, "data");
    const writing = setInterval(() => going.write("x".repeat(11)), 100);
    await once(standing, "close");
    expect(String((await answer)[0])).toContain("200 OK");
    clearInterval(writing);
    going.destroy();
    await slowServer.close();
  });
});

import { spawnSync } from "node:child_process";
import { mkdir, readdir, readFile, rename, writeFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import { setTimeout } from "node:timers/promises";
import { HummingTideError } from "@humming-tide/core";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import {
  hasPicture,
  namedTakes,
  newShowDocument,
  newShowSong,
  newSlide,
  newVoice,
  type ShowDocument,
  takeOf,
} from "@humming-tide/core/show";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ZipFile } from "yazl";
import { openStudio, type Studio } from "../start-server.ts";
import { clickSong, stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { outsideOf } from "../testing/outside-of.ts";
import { openPackage, writePackage } from "./index.ts";
import { sha256Of } from "./write-package.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;
let document: ShowDocument;
let whole: Buffer;

beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"));
  const slides: ShowDocument["slides"] = [];
  for (const [i, name] of ["1.jpg", "🏮 “two”.jpg", "שלוש.jpg"].entries()) {
    const { sha256 } = await studio.library.takeIn(Readable.from([await stripedJpeg(i)]), name);
    slides.push({ ...newSlide({ id: `s${i}`, sha256, fileName: name }), hero: i === 1, caption: "=words" });
  }
  const song = await studio.library.takeIn(Readable.from([clickSong(6).wav]), "song.wav");
  const voice = await studio.library.takeIn(Readable.from([clickSong(3).wav]), "vows.wav", { wanted: "voice" });
  document = {
    ...newShowDocument("Regatta / night"),
    slides,
    songs: [newShowSong({ id: "song 1", sha256: song.sha256, fileName: "song.wav" })],
    voices: [newVoice("voice 1", { sha256: voice.sha256, fileName: "vows.wav" }, { slideId: "s1", seconds: 0.5 })],
  };
  whole = await bytesOf(await writePackage(document, studio.library));
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

async function bytesOf(stream: Readable): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

let opened = 0;
async function open(content: Uint8Array) {
  const file = path.join(place.folder, `package ${++opened}.zip`);
  await writeFile(file, content);
  const steps: string[] = [];
  const show = await openPackage({
    path: file,
    bytes: content.length,
    library: studio.library,
    shows: studio.shows,
    background: studio.background,
    signal: new AbortController().signal,
    onProgress: (done, total) => steps.push(`${done}/${total}`),
  });
  return { show, steps };
}

describe("a package", () => {
  it("is a plain zip whose sums an independent program confirms", async () => {
    const file = path.join(place.folder, "outside.zip");
    const folder = path.join(place.folder, "outside");
    await mkdir(folder);
    await writeFile(file, whole);
    const unzip = `import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; z.extractall(sys.argv[2])`;
    const python = spawnSync("python3", ["-c", unzip, file, folder], { encoding: "utf8" });
    expect([python.status, python.stderr]).toEqual([0, ""]);
    const sums = spawnSync("sha256sum", ["--check", "--strict", "--quiet", "SHA256SUMS"], {
      cwd: folder,
      encoding: "utf8",
    });
    expect([sums.status, sums.stdout, sums.stderr]).toEqual([0, "", ""]);
    const listed = (await readFile(path.join(folder, "SHA256SUMS"), "utf8")).trim().split("\n").length;
    expect(listed).toBe(
      (await readdir(folder, { recursive: true, withFileTypes: true })).filter((e) => e.isFile()).length - 1,
    );
  });

  it("ends with an error, and the program goes on, where a file goes while it is read", async () => {
    const last = takeOf(itemAt(document.voices, 0)).sha256;
    const original = studio.library.store.originalPath(last);
    const away = `${original} away`;
    const content = await writePackage(document, studio.library);
    // The zip has looked at every file, and opens each when it is its turn.
    await setTimeout(100);
    await rename(original, away);
    try {
      await expect(bytesOf(content)).rejects.toMatchObject({ code: "ENOENT" });
    } finally {
      await rename(away, original);
    }
    expect((await bytesOf(await writePackage(document, studio.library))).equals(whole)).toBe(true);
  });

  it("is the same bytes for the same show", async () => {
    expect((await bytesOf(await writePackage(document, studio.library))).equals(whole)).toBe(true);
  });

  it("opens in another data folder with every file and the show byte for byte the same", async () => {
    // One studio a process: the other one is a process of its own, as it is on another machine.
    const file = path.join(place.folder, "travels.zip");
    await writeFile(file, whole);
    const data = path.join(place.folder, "other");
    const command = new URL("../../../cli/bin/humming-tide.mjs", import.meta.url).pathname;
    const run = (...args: string[]) => spawnSync(process.execPath, [command, ...args], { encoding: "utf8" });
    expect(run("unpack", file, "--data", data)).toMatchObject({ status: 0, stderr: "" });
    for (const { sha256 } of [...document.slides.filter(hasPicture), ...document.songs, ...namedTakes(document)]) {
      const there = await readFile(path.join(data, "media", sha256.slice(0, 2), sha256));
      expect(sha256Of(there)).toBe(sha256);
    }
    const again = path.join(place.folder, "again.zip");
    expect(run("pack", "Regatta / night", again, "--data", data)).toMatchObject({ status: 0, stderr: "" });
    expect((await readFile(again)).equals(whole)).toBe(true);
  });

  it("opens as a new show beside the one it came from, and tells how far it is", async () => {
    const before = (await studio.shelf.list()).length;
    const { show, steps } = await open(whole);
    expect((await studio.shows.get(show.id)).document).toEqual(document);
    expect(steps).toEqual(["0/5", "1/5", "2/5", "3/5", "4/5", "5/5"]);
    expect((await studio.shelf.list()).length).toBe(before + 1);
  });

  it("is not written where a file of the show is missing", async () => {
    const lost = {
      ...document,
      slides: [...document.slides, newSlide({ id: "x", sha256: "f".repeat(64), fileName: "lost.jpg" })],
    };
    await expect(writePackage(lost, studio.library)).rejects.toThrow(/"lost.jpg" is not in the data folder/);
  });
});

interface Entry {
  readonly name: string;
  readonly content: Buffer;
  readonly compress?: boolean;
}

/** The entries of a right package, to be spoilt one by one. */
async function rightEntries(): Promise<Entry[]> {
  const text = Buffer.from(`${JSON.stringify(document, null, 1)}\n`);
  const media = await Promise.all(
    [...document.slides, ...document.songs].map(async ({ sha256, fileName }) => ({
      sha256,
      fileName,
      content: await readFile(studio.library.store.originalPath(present(sha256))),
    })),
  );
  const manifest = {
    format: "humming-tide-package",
    version: 1,
    title: document.title,
    documentSha256: sha256Of(text),
    media: media.map(({ sha256, fileName, content }) => ({
      path: `media/${sha256}`,
      sha256,
      bytes: content.length,
      fileName,
    })),
  };
  return [
    { name: "humming-tide.json", content: Buffer.from(JSON.stringify(manifest)) },
    { name: "show.json", content: text },
    ...media.map(({ sha256, content }) => ({ name: `media/${sha256}`, content })),
  ];
}

async function zipOf(entries: readonly Entry[]): Promise<Buffer> {
  const zip = new ZipFile();
  for (const { name, content, compress = false } of entries) zip.addBuffer(content, name, { compress });
  zip.end();
  return bytesOf(zip.outputStream as Readable);
}

/**
 * Writes other bytes of the same length wherever a text stands: names that no honest writer would
 * write.
 */
function patched(zip: Buffer, from: string, to: string): Buffer {
  const copy = Buffer.from(zip);
  for (let at = copy.indexOf(from); at >= 0; at = copy.indexOf(from, at + 1)) copy.write(to, at, "utf8");
  return copy;
}

const editManifest = (
  entries: Entry[],
  edit: (manifest: { media: Record<string, unknown>[]; version: number }) => void,
): Entry[] => {
  const manifest = JSON.parse(itemAt(entries, 0).content.toString()) as {
    media: Record<string, unknown>[];
    version: number;
  };
  edit(manifest);
  return [{ ...itemAt(entries, 0), content: Buffer.from(JSON.stringify(manifest)) }, ...entries.slice(1)];
};

describe("a damaged or hostile package", () => {
  const extra = "media/" + "0".repeat(64);
  const cases: [string, () => Promise<Buffer>, RegExp, string][] = [
    ["cut short", () => Promise.resolve(whole.subarray(0, whole.length - 100)), /not a whole zip/, "package-damaged"],
    ["no zip at all", () => Promise.resolve(Buffer.from("Bring the lanterns.")), /not a whole zip/, "package-damaged"],
    [
      "with a byte of a picture flipped",
      async () => {
        const copy = Buffer.from(whole);
        const picture = await readFile(studio.library.store.originalPath(present(itemAt(document.slides, 0).sha256)));
        copy[copy.indexOf(picture) + 500]! ^= 1;
        return copy;
      },
      /"1.jpg" does not have its sum|cannot be read/,
      "package-damaged",
    ],
    [
      "without its manifest",
      async () => zipOf((await rightEntries()).slice(1)),
      /"humming-tide.json" is missing/,
      "package-damaged",
    ],
    [
      "without a picture",
      async () => zipOf((await rightEntries()).filter((_, i) => i !== 2)),
      /"1.jpg" is missing/,
      "package-damaged",
    ],
    [
      "whose manifest forgets a picture",
      async () => zipOf(editManifest(await rightEntries(), (manifest) => void manifest.media.shift())),
      /does not belong in it/,
      "package-hostile",
    ],
    [
      "whose show was changed",
      async () =>
        zipOf(
          (await rightEntries()).map((entry) =>
            entry.name === "show.json" ? { ...entry, content: Buffer.from("{}") } : entry,
          ),
        ),
      /document does not have its sum/,
      "package-damaged",
    ],
    [
      "of a later version",
      async () => zipOf(editManifest(await rightEntries(), (manifest) => void (manifest.version = 9))),
      /newer Humming Tide/,
      "package-too-new",
    ],
    [
      "with a path that climbs out",
      async () =>
        patched(
          await zipOf([...(await rightEntries()), { name: "aa/bb/passwd", content: Buffer.from("x") }]),
          "aa/bb/passwd",
          "../../passwd",
        ),
      /relative path/,
      "package-hostile",
    ],
    [
      "with an absolute path",
      async () =>
        patched(
          await zipOf([...(await rightEntries()), { name: "aetc/passwd", content: Buffer.from("x") }]),
          "aetc/passwd",
          "/etc/passwd",
        ),
      /absolute path/,
      "package-hostile",
    ],
    [
      "with backslashes",
      async () =>
        patched(
          await zipOf([...(await rightEntries()), { name: "aa/bb", content: Buffer.from("x") }]),
          "aa/bb",
          "..\\bb",
        ),
      /invalid characters/,
      "package-hostile",
    ],
    [
      "with a file too many",
      async () => zipOf([...(await rightEntries()), { name: "install.sh", content: Buffer.from("x") }]),
      /"install.sh" does not belong/,
      "package-hostile",
    ],
    [
      "with a medium too many",
      async () => zipOf([...(await rightEntries()), { name: extra, content: Buffer.from("x") }]),
      /does not belong/,
      "package-hostile",
    ],
    [
      "with a name twice",
      async () =>
        patched(
          await zipOf([...(await rightEntries()), { name: "shaw.json", content: Buffer.from("{}") }]),
          "shaw.json",
          "show.json",
        ),
      /in it twice/,
      "package-hostile",
    ],
    [
      "that is a bomb of packed media",
      async () =>
        zipOf([...(await rightEntries()), { name: extra, content: Buffer.alloc(50_000_000), compress: true }]),
      /is packed, though media never are/,
      "package-hostile",
    ],
    [
      "that is a bomb of packed text",
      async () => zipOf([{ name: "humming-tide.json", content: Buffer.alloc(100_000_000, " "), compress: true }]),
      /would unpack to 100000000 bytes/,
      "package-hostile",
    ],
    [
      "whose picture is no picture",
      async () => {
        const letter = Buffer.from("Bring the lanterns.\n".repeat(20));
        const sha256 = sha256Of(letter);
        const own = { ...newShowDocument("x"), slides: [newSlide({ id: "a", sha256, fileName: "letter.jpg" })] };
        const text = Buffer.from(JSON.stringify(own));
        const manifest = {
          format: "humming-tide-package",
          version: 1,
          title: "x",
          documentSha256: sha256Of(text),
          media: [{ path: `media/${sha256}`, sha256, bytes: letter.length, fileName: "letter.jpg" }],
        };
        return zipOf([
          { name: "humming-tide.json", content: Buffer.from(JSON.stringify(manifest)) },
          { name: "show.json", content: text },
          { name: `media/${sha256}`, content: letter },
        ]);
      },
      /neither a picture/,
      "file-unknown",
    ],
    [
      "whose sizes lie",
      async () =>
        zipOf(editManifest(await rightEntries(), (manifest) => void (itemAt(manifest.media, 0)["bytes"] = 7))),
      /"1.jpg" does not have its size/,
      "package-damaged",
    ],
  ];

  it.each(cases)("%s is refused with the reason and changes nothing", async (_what, make, reason, code) => {
    const content = await make();
    const shows = (await studio.shelf.list()).length;
    const files = await readdir(path.join(place.folder, "data"), { recursive: true });
    const error = await open(content).catch((thrown: unknown) => thrown);
    expect(error).toBeInstanceOf(HummingTideError);
    expect((error as HummingTideError).message).toMatch(reason);
    expect((error as HummingTideError).code).toBe(code);
    expect((await studio.shelf.list()).length).toBe(shows);
    const known = new Set(files);
    const left = (await readdir(path.join(place.folder, "data"), { recursive: true })).filter(
      (name) => !known.has(name) && !name.startsWith("humming-tide.sqlite"),
    );
    expect(left).toEqual([]);
  });

  it("whose entries lie over one another is refused", async () => {
    // The central directory names the same stored bytes again and again under other names, each of
    // the file's whole size.
    const entries = await rightEntries();
    const large = { name: `media/${"1".repeat(64)}`, content: Buffer.alloc(400_000, 7) };
    const zip = await zipOf([...entries, large]);
    const end = zip.lastIndexOf(Buffer.from("PK\x05\x06", "latin1"));
    const directory = zip.readUInt32LE(end + 16);
    const own = zip.lastIndexOf(Buffer.from("PK\x01\x02", "latin1"));
    const record = zip.subarray(own, end);
    const copies = ["2", "3", "4", "5"].map((digit) => patched(record, "1".repeat(64), digit.repeat(64)));
    const tail = Buffer.from(zip.subarray(end));
    const more = copies.length;
    tail.writeUInt16LE(tail.readUInt16LE(8) + more, 8);
    tail.writeUInt16LE(tail.readUInt16LE(10) + more, 10);
    tail.writeUInt32LE(end - directory + copies.reduce((sum, copy) => sum + copy.length, 0), 12);
    await expect(open(Buffer.concat([zip.subarray(0, end), ...copies, tail]))).rejects.toThrow(/lie over one another/);
  });
});

describe("over HTTP", () => {
  it("is downloaded under the show's name and opened again, with its progress", async () => {
    const { createApp } = await import("../http/app.ts");
    const request = (await import("supertest")).default;
    const app = createApp({
      ...studio,
      ...outsideOf(studio),
      hostNames: new Set(["127.0.0.1"]),
      version: "test",
    });
    const show = await studio.shows.create(document.title, document);
    const answer = await request(app)
      .get(`/api/shows/${show.id}/package`)
      .buffer(true)
      .parse((response, done) => {
        const chunks: Buffer[] = [];
        response.on("data", (chunk: Buffer) => chunks.push(chunk));
        response.on("end", () => done(null, Buffer.concat(chunks)));
      });
    expect(answer.headers["content-disposition"]).toContain('filename="Regatta night.tide.zip"');
    expect((answer.body as Buffer).equals(whole)).toBe(true);
    const lines = (await request(app).post("/api/packages").set("Content-Type", "application/octet-stream").send(whole))
      .text;
    const events = lines
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as { kind: string; showId?: string });
    expect(events.map(({ kind }) => kind)).toEqual([...Array.from({ length: 6 }, () => "progress"), "opened"]);
    expect((await studio.shows.get(present(lastOf(events).showId))).document).toEqual(document);
    const refused = (
      await request(app).post("/api/packages").set("Content-Type", "application/octet-stream").send(Buffer.from("x"))
    ).text;
    expect(refused).toContain('"code":"package-damaged"');
    expect(await readdir(studio.folder.unfinished)).toEqual([]);
  });
});

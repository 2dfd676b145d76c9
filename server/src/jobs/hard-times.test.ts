import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { once } from "node:events";
import { createReadStream } from "node:fs";
import { mkdir, rm, stat, statfs, writeFile } from "node:fs/promises";
import path from "node:path";
import type { ExportJob, SavedShow } from "@humming-tide/contract";
import { itemAt, present } from "@humming-tide/core/presence";
import { mainOutput, newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStudio } from "../start-server.ts";
import { clickSong, createShow, ffmpeg, sendFile, stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { builtProgram } from "../workers/built-program.ts";

const SERVER = builtProgram(new URL("../main.ts", import.meta.url));

let place: Awaited<ReturnType<typeof temporaryFolder>>;
const started = new Set<ChildProcess>();
const mounted = new Set<string>();

beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(async () => {
  for (const child of started) child.kill("SIGKILL");
  for (const folder of mounted) spawnSync("umount", [folder]);
  await place.remove();
});

/** A real server in a process of its own, as a person starts it. */
async function startServer(
  data: string,
  environment: Record<string, string> = {},
): Promise<{ address: string; child: ChildProcess }> {
  const child = spawn(process.execPath, [SERVER, "--data", data, "--port", "0"], {
    env: { ...process.env, ...environment },
    stdio: ["ignore", "pipe", "inherit"],
  });
  started.add(child);
  let text = "";
  for await (const chunk of child.stdout) {
    text += String(chunk);
    const match = /ready: (\S+)/.exec(text);
    if (match) return { address: itemAt(match, 1), child };
  }
  throw new Error(`The server did not start: ${text}`);
}

async function stopHard({ child }: { child: ChildProcess }): Promise<void> {
  child.kill("SIGKILL");
  await once(child, "exit");
}

/** Brings a file into a show of its own. */
async function send(address: string, content: Uint8Array, name: string): ReturnType<typeof sendFile> {
  return sendFile(address, await createShow(address), content, name);
}

async function waitFor<T>(what: string, look: () => Promise<T | null>): Promise<T> {
  for (let i = 0; i < 1500; i++) {
    const found = await look();
    if (found !== null) return found;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`Waited for ${what} in vain`);
}

const FILM = { size: { width: 1280, height: 720 }, frameRate: { num: 25, den: 1 } };

/** Where it is not the disk that counts. */
const SMALL_FILM = { ...FILM, size: { width: 640, height: 360 } };
const SMALL = { ...SMALL_FILM, outputs: [mainOutput(SMALL_FILM)] };

/** A data folder with a show of a few pictures and a song, small enough to export quickly. */
async function prepareShow(data: string, more: Partial<ShowDocument> = {}): Promise<string> {
  const studio = await openStudio(data);
  try {
    const slides: ShowDocument["slides"] = [];
    for (let i = 0; i < 6; i++) {
      const file = path.join(place.folder, `hard-${i}.jpg`);
      await writeFile(file, await stripedJpeg(i, 1280, 720));
      const { sha256 } = await studio.library.takeIn(createReadStream(file), `${i}.jpg`);
      slides.push(newSlide({ id: `s${i}`, sha256, fileName: `${i}.jpg` }));
    }
    const songPath = path.join(place.folder, "hard.wav");
    await writeFile(songPath, clickSong(30).wav);
    const { sha256 } = await studio.library.takeIn(createReadStream(songPath), "hard.wav");
    const show = await studio.shows.create("Regatta", {
      ...newShowDocument("Regatta"),
      slides,
      songs: [newShowSong({ id: "song 1", sha256, fileName: "hard.wav" })],
      ...FILM,
      outputs: [mainOutput(FILM)],
      standsStill: true,
      ...more,
    });
    return show.id;
  } finally {
    await studio.close();
  }
}

const startExport = (address: string, showId: string): Promise<Response> =>
  fetch(`${address}/api/shows/${showId}/exports`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ outputIds: ["main"] }),
  });

const exportsOf = async (address: string, showId: string): Promise<ExportJob[]> =>
  (await (await fetch(`${address}/api/shows/${showId}/exports`)).json()) as ExportJob[];

describe("a server that is killed in the middle of an export", () => {
  it("goes on with the export where it was when it is started again, and the film is right", async () => {
    const data = path.join(place.folder, "killed");
    const showId = await prepareShow(data, SMALL);
    const first = await startServer(data);
    await startExport(first.address, showId);
    const [{ id }] = (await exportsOf(first.address, showId)) as [ExportJob];
    const part = path.join(data, "exports", id, "parts", "00000.mp4");
    const finished = await waitFor("a finished part", async () => stat(part).catch(() => null));
    await stopHard(first);

    const second = await startServer(data);
    const { progress } = await waitFor("progress", async () => {
      const [latest] = await exportsOf(second.address, showId);
      // Until it draws, it shows how far the first server had got when it last wrote that down.
      return present(latest).step === "Drawing and encoding" ? present(latest) : null;
    });
    // The first third is there already, and is not made again.
    expect(progress).toBeGreaterThan(0.25);
    expect(await stat(part)).toMatchObject({ ino: finished.ino, mtimeMs: finished.mtimeMs });
    const job = await waitFor("the film", async () => {
      const [latest] = await exportsOf(second.address, showId);
      return present(latest).state === "done" || present(latest).state === "failed" ? present(latest) : null;
    });
    expect(job).toMatchObject({ state: "done", tries: 2, error: null, measurement: { ok: true } });
    const film = Buffer.from(await (await fetch(`${second.address}/api/exports/${job.id}/film`)).arrayBuffer());
    expect(film.length).toBe(job.bytes);
    await stopHard(second);
  });
});

describe("cancelling", () => {
  it("ends a running export within a moment and says cancelled, not failed", async () => {
    const data = path.join(place.folder, "cancelled");
    const showId = await prepareShow(data);
    const server = await startServer(data);
    const [{ id }] = (await (await startExport(server.address, showId)).json()) as [ExportJob];
    await waitFor("progress", async () =>
      itemAt(await exportsOf(server.address, showId), 0).progress > 0.05 ? true : null,
    );
    await fetch(`${server.address}/api/exports/${id}/cancel`, { method: "POST" });
    const job = await waitFor("the end", async () => {
      const [latest] = await exportsOf(server.address, showId);
      return present(latest).state === "running" ? null : present(latest);
    });
    expect(job).toMatchObject({ state: "cancelled", error: null });
    expect((await fetch(`${server.address}/api/exports/${id}/film`)).status).toBe(404);
    await stopHard(server);
  });
});

/** A disk of its own with a real end, where the machine lets us make one. */
function smallDisk(name: string, megabytes: number): string {
  const folder = path.join(place.folder, name);
  spawnSync("mkdir", ["-p", folder]);
  const { status, stderr } = spawnSync("mount", ["-t", "tmpfs", "-o", `size=${megabytes}m`, "tmpfs", folder]);
  if (status !== 0) throw new Error(`This test needs a small disk (mount as root): ${stderr.toString()}`);
  mounted.add(folder);
  return folder;
}

describe("a disk that turns read-only", () => {
  it("is said in a sentence, and saving goes on when it can be written to again", async () => {
    const disk = smallDisk("disk-read-only", 12);
    const server = await startServer(path.join(disk, "data"));
    const showId = await createShow(server.address);
    // Mounted over itself: what is opened from now on cannot be written to.
    const turnReadOnly = (): void => {
      for (const args of [
        ["--bind", disk, disk],
        ["-o", "remount,bind,ro", disk],
      ])
        spawnSync("mount", args);
    };
    const rename = async (title: string): Promise<{ status: number; body: { code?: string; message?: string } }> => {
      const answer = await fetch(`${server.address}/api/shows/${showId}`, {
        method: "PATCH",
        headers: { "Content-Type": "application/json", "If-Match": '"1"' },
        body: JSON.stringify({ values: { title }, lists: {} }),
      });
      return { status: answer.status, body: (await answer.json()) as { code?: string } };
    };
    turnReadOnly();
    const refused = await rename("Not now");
    expect(refused.body.message).toMatch(/cannot be written to|cannot be reached/);
    expect(refused.body.message).not.toMatch(/SQLITE|saved as it was/);
    expect((await fetch(`${server.address}/api/shows/${showId}`)).status).toBe(200);
    spawnSync("umount", ["--lazy", disk]);
    expect(await rename("Now")).toMatchObject({ status: 200 });
    await stopHard(server);
  });
});

/** Less than a third of the film that is made. */
const LEFT_BYTES = 200_000;

describe("a full disk", () => {
  it("refuses an upload with a clear message, keeps what was there, and works again when there is room", async () => {
    const disk = smallDisk("disk-upload", 12);
    const server = await startServer(path.join(disk, "data"));
    const kept = await send(server.address, await stripedJpeg(1), "kept.jpg");
    expect(kept.status).toBe(201);
    // Settings, too: of client pages and of the folder for films.
    const ballast = path.join(disk, "ballast");
    const showId = await createShow(server.address);
    const { bavail, bsize } = await statfs(disk);
    await writeFile(ballast, Buffer.alloc(bavail * bsize)).catch(() => undefined);
    const headers = { "Content-Type": "application/json" };
    for (const [where, body] of [
      [`shows/${showId}/client-page`, { shown: true, expiresAt: null, embedOrigins: [] }],
      ["films-folder", { folder: disk }],
    ] as const) {
      const answer = await fetch(`${server.address}/api/${where}`, {
        method: "PUT",
        headers,
        body: JSON.stringify(body),
      });
      const { code, message } = (await answer.json()) as { code: string; message: string };
      expect([where, answer.status, code]).toEqual([where, 507, "disk-full"]);
      expect(message).toMatch(/^The disk is full: .*Make room/);
    }
    await rm(ballast);
    const large = ffmpeg(["-f", "lavfi", "-i", "anoisesrc=d=200:r=48000", "-f", "wav", "-"]);
    // Several times over, because the answer and the requests after it have to get through while
    // the rest of the file is still coming.
    for (let i = 0; i < 6; i++) {
      const refused = await send(server.address, large, "long.wav");
      expect(refused.status).toBe(507);
      expect(refused.body.message).toMatch(/disk is full.*What was saved before is kept/);
    }
    expect((await fetch(`${server.address}/api/media/${kept.body.sha256}/working`)).status).toBe(200);
    expect((await send(server.address, await stripedJpeg(2), "after.jpg")).status).toBe(201);
    await stopHard(server);
  });

  it("fails an export with the reason, leaves no half film, and the show can still be saved and exported", async () => {
    const disk = smallDisk("disk-export", 120);
    const data = path.join(disk, "data");
    const showId = await prepareShow(data, SMALL);
    const server = await startServer(data);
    const ballast = path.join(disk, "ballast");
    // All but a little is taken up by something else. A film that grows meanwhile may take the
    // rest.
    const fill = async (): Promise<void> => {
      const { bavail, bsize } = await statfs(disk);
      const bytes = Math.max(0, bavail * bsize - LEFT_BYTES);
      await writeFile(ballast, Buffer.alloc(bytes)).catch((error: NodeJS.ErrnoException) => {
        if (error.code !== "ENOSPC") throw error;
      });
    };
    await fill();
    const refused = await startExport(server.address, showId);
    expect([refused.status, await exportsOf(server.address, showId)]).toEqual([507, []]);
    expect(await refused.json()).toMatchObject({ code: "disk-short" });

    // It fills up while the film is made.
    await rm(ballast);
    const [{ id }] = (await (await startExport(server.address, showId)).json()) as [ExportJob];
    await waitFor("its parts", async () => stat(path.join(data, "exports", id, "parts")).catch(() => null));
    await fill();
    const ended = async (count: number): Promise<ExportJob> =>
      waitFor("the end", async () => {
        const jobs = await exportsOf(server.address, showId);
        return jobs.length === count && jobs.every(({ state }) => state === "done" || state === "failed")
          ? itemAt(jobs, 0)
          : null;
      });
    const failed = await ended(1);
    expect(failed.state).toBe("failed");
    expect(failed.error).toMatch(/disk is full/);

    await rm(ballast);
    const show = (await (await fetch(`${server.address}/api/shows/${showId}`)).json()) as SavedShow;
    const saved = await fetch(`${server.address}/api/shows/${showId}`, {
      method: "PUT",
      headers: { "Content-Type": "application/json", "If-Match": `"${show.revision}"` },
      body: JSON.stringify({ ...show.document, title: "After the flood" }),
    });
    expect(saved.status).toBe(200);
    await startExport(server.address, showId);
    expect(await ended(2)).toMatchObject({ state: "done", measurement: { ok: true } });
    await stopHard(server);
  });
});

describe("without ffmpeg", () => {
  it("says so, and pictures still work", async () => {
    const server = await startServer(path.join(place.folder, "bare"), { HUMMING_TIDE_FFMPEG: "/nowhere/ffmpeg" });
    const health = (await (await fetch(`${server.address}/api/health`)).json()) as { ffmpegProblem: string };
    expect(health.ffmpegProblem).toMatch(/No usable ffmpeg.*pictures and their order work without/);
    expect((await send(server.address, await stripedJpeg(1), "one.jpg")).status).toBe(201);
    const song = await send(server.address, clickSong(4).wav, "song.wav");
    expect(song.status).toBe(503);
    expect(song.body.message).toMatch(/Install it/);
    await stopHard(server);
  });
});

describe("starting", () => {
  it("says that a port is taken, or a data folder cannot be used", async () => {
    const server = await startServer(path.join(place.folder, "port"));
    const port = new URL(server.address).port;
    const start = (data: string, onPort: string) =>
      spawnSync(process.execPath, [SERVER, "--data", data, "--port", onPort], { encoding: "utf8" });
    const second = start(path.join(place.folder, "other"), port);
    expect([second.status, second.stderr]).toEqual([1, expect.stringContaining(`Port ${port} on 127.0.0.1 is taken`)]);
    await mkdir(path.join(place.folder, "plain"), { recursive: true });
    const file = path.join(place.folder, "plain", "file");
    await writeFile(file, "");
    const third = start(path.join(file, "data"), "0");
    expect([third.status, third.stderr]).toEqual([1, expect.stringContaining("cannot be used")]);
    await stopHard(server);
  });
});

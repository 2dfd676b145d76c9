import { createHash } from "node:crypto";
import { once } from "node:events";
import { copyFile, mkdir, readdir, readFile, stat, truncate } from "node:fs/promises";
import path from "node:path";
import { setTimeout } from "node:timers/promises";
import type { Delivery, DiscWish, VideoWish } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import { mainOutput } from "@humming-tide/core/show";
import { type RunningStandIns, startStandIns } from "@humming-tide/stand-ins";
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { DiscWriterClient } from "../services/disc-writer-client.ts";
import { PaymentClient } from "../services/payment-client.ts";
import { VideoSiteClient } from "../services/video-site-client.ts";
import { type FilmStudio, openFilmStudio } from "../testing/film-studio.ts";
import { DeliveryQueue } from "./delivery-queue.ts";
import { OutsideAccounts, type OutsideServices } from "./outside-accounts.ts";
import { uploadFilm } from "./upload-film.ts";
import type { VideoSite } from "./video-site.ts";

let studio: FilmStudio;
let standIns: RunningStandIns;
let services: OutsideServices;
let accounts: OutsideAccounts;
let deliveries: DeliveryQueue;
let showId: string;
let exportId: string;
let film: string;

beforeAll(async () => {
  studio = await openFilmStudio(3, 8);
  const { queue, shows } = studio.studio;
  const document = {
    ...studio.document,
    event: "Lantern regatta",
    passages: studio.document.passages.map((passage) => ({ ...passage, name: "The <quay> & the night" })),
  };
  ({ id: showId } = await shows.create("Regatta", document));
  const [job] = await queue.add(showId, document, [mainOutput(document)]);
  for (;;) {
    const [change] = (await once(queue, "change")) as [{ state: string; error: string | null }];
    if (change.state === "done") break;
    if (change.state === "failed") throw new Error(change.error ?? "");
  }
  exportId = present(job).id;
  film = queue.filmPath(present(job));
});
afterAll(() => studio.close());

beforeEach(async () => {
  standIns = await startStandIns({ port: 0, folder: path.join(studio.folder, "stand-ins"), processingMs: 300 });
  const { address } = standIns;
  services = { address, video: new VideoSiteClient(address), disc: new DiscWriterClient(address) };
  deliveries = newQueue();
});
afterEach(async () => {
  await deliveries.close();
  await standIns.close();
});

function newQueue(): DeliveryQueue {
  const { stores, queue, planner } = studio.studio;
  accounts = new OutsideAccounts(stores.preferences, services);
  return new DeliveryQueue({ exports: queue, planner, deliveries: stores.deliveries, accounts });
}

const videoWish = (more: Partial<VideoWish> = {}): VideoWish => ({
  ...{
    kind: "video",
    exportId,
    title: "Closing night",
    description: "Lanterns, boats\nand a dance",
    visibility: "unlisted",
  },
  ...more,
});
const discWish = (more: Partial<DiscWish> = {}): DiscWish => ({
  ...{ kind: "disc", exportId, label: "REGATTA", firstPlay: "menu", onlyFolder: false },
  ...more,
});

/** Waits until a delivery no longer moves. */
async function rests({ id }: Pick<Delivery, "id">): Promise<Delivery> {
  for (;;) {
    const { delivery } = await studio.studio.stores.deliveries.get(id);
    if (delivery.state !== "queued" && delivery.state !== "running") return delivery;
    await setTimeout(40);
  }
}

const sha256 = async (file: string): Promise<string> =>
  createHash("sha256")
    .update(await readFile(file))
    .digest("hex");

describe("a film goes to the video site", () => {
  it("after signing in, and is found at its address as it was", async () => {
    await expect(accounts.signIn("lantern", "wrong")).rejects.toMatchObject({ code: "sign-in-refused" });
    expect(await rests(await deliveries.add(showId, videoWish()))).toMatchObject({
      state: "paused",
      error: /Sign in/,
    });
    await accounts.signIn("lantern", "regatta");
    expect(await accounts.state()).toMatchObject({ videoAccount: "lantern" });
    const seen: string[] = [];
    deliveries.on("change", ({ step }) => seen.push(step));
    const done = await rests(await deliveries.add(showId, videoWish()));
    expect(done).toMatchObject({ state: "done", progress: 1 });
    expect(seen).toContain("The site is processing the film");
    const page = await (await fetch(present(done.place))).text();
    expect(page).toContain("<h1>Closing night</h1>");
    expect(page).toContain("Lanterns, boats<br>and a dance");
    const shown = Buffer.from(await (await fetch(`${done.place}/film`)).arrayBuffer());
    expect(createHash("sha256").update(shown).digest("hex")).toBe(await sha256(film));
    const hidden = await rests(await deliveries.add(showId, videoWish({ visibility: "private" })));
    expect((await fetch(present(hidden.place))).status).toBe(403);
  });

  it("goes on after lost chunks, a site that is away and an ended session, and sends no byte twice that has arrived", async () => {
    const { token } = await services.video.signIn("lantern", "regatta");
    const { size } = await stat(film);
    const chunkBytes = Math.ceil(size / 7);
    standIns.troubles.ask("video-chunk-lost", 3);
    standIns.troubles.ask("video-away", 3);
    const sent: number[] = [];
    const { video } = services;
    const site: VideoSite = {
      begin: (...args) => video.begin(...args),
      received: (...args) => video.received(...args),
      signIn: (...args) => video.signIn(...args),
      video: (...args) => video.video(...args),
      send: (...args) => {
        sent.push(args[2]);
        return video.send(...args);
      },
    };
    const facts = { title: "Regatta", description: "", visibility: "public" } as const;
    const request = {
      ...{ site, token, filmPath: film, facts, chunkBytes, firstWaitMs: 5, id: null },
      signal: new AbortController().signal,
      onProgress: () => undefined,
      onBegun: () => Promise.resolve(),
    };
    const published = await uploadFilm(request);
    const shown = Buffer.from(await (await fetch(`${published.address}/film`)).arrayBuffer());
    expect(createHash("sha256").update(shown).digest("hex")).toBe(await sha256(film));
    // After each loss the upload begins where the half chunk ended.
    expect(sent).toEqual([...sent].sort((a, b) => a - b));
    expect(new Set(sent).size).toBe(sent.length);
    expect(sent.length).toBeGreaterThan(8);
    // Signed out in the middle: it stands still, and goes on after signing in again.
    await accounts.signIn("lantern", "regatta");
    standIns.troubles.ask("video-signed-out");
    const stopped = await rests(await deliveries.add(showId, videoWish()));
    expect(stopped).toMatchObject({ state: "paused" });
    expect((await accounts.state()).videoAccount).toBeNull();
    await accounts.signIn("lantern", "regatta");
    await deliveries.resume(stopped.id);
    expect(await rests(stopped)).toMatchObject({ state: "done" });
  });

  it("is taken up by the next start where the site has got to", async () => {
    await accounts.signIn("lantern", "regatta");
    const { token } = present(await studio.studio.stores.preferences.videoSession());
    const { size } = await stat(film);
    const bytes = await readFile(film);
    // A server that died: a part of the film is there, and its row says that it is under way.
    const id = await services.video.begin(token, size, { title: "Half", description: "", visibility: "public" });
    await services.video.send(token, id, 0, bytes.subarray(0, size >> 1), new AbortController().signal);
    const { delivery } = await studio.studio.stores.deliveries.create(showId, videoWish({ title: "Half" }));
    await studio.studio.stores.deliveries.update(delivery.id, { serviceId: id, progress: 0.4 });
    await deliveries.close();
    expect(await studio.studio.stores.deliveries.jobs.video.claimNext(Date.now() + 30_000)).toBe(delivery.id);
    deliveries = newQueue();
    await deliveries.start();
    const done = await rests(delivery);
    expect(done).toMatchObject({ state: "done", place: `${standIns.address}/watch/${id}` });
    const shown = Buffer.from(await (await fetch(`${done.place}/film`)).arrayBuffer());
    expect(createHash("sha256").update(shown).digest("hex")).toBe(await sha256(film));
  });

  it("says in the site's words why it cannot be shown, begins again on wish, and stops when it is told to", async () => {
    await accounts.signIn("lantern", "regatta");
    standIns.troubles.ask("video-processing-fails");
    const failed = await rests(await deliveries.add(showId, videoWish()));
    expect(failed).toMatchObject({
      state: "failed",
      error: expect.stringContaining("could not be processed") as string,
    });
    await deliveries.resume(failed.id);
    expect(await rests(failed)).toMatchObject({ state: "done" });
    const delivery = await deliveries.add(showId, videoWish());
    await once(deliveries, "change");
    await deliveries.cancel(delivery.id);
    expect(await rests(delivery)).toMatchObject({ state: "cancelled", place: null });
    await expect(deliveries.add("another show", videoWish())).rejects.toMatchObject({ code: "no-film" });
  });
});

describe("a film goes onto a disc", () => {
  it("as a folder with a menu of its passages, which is written, read again and found the same", async () => {
    const wanted = await rests(await deliveries.add(showId, discWish()));
    expect(wanted).toMatchObject({ state: "failed", error: expect.stringContaining("no disc in the drive") as string });
    standIns.drive.insert("single");
    await deliveries.resume(wanted.id);
    const done = await rests(wanted);
    expect(done).toMatchObject({ state: "done", step: "Written and verified", remark: null });
    const folder = present(done.place);
    const files = (await readdir(folder, { recursive: true })).sort();
    expect(files).toEqual(["disc.json", "film.mp4", "index.html", "menu", "menu/01.jpg"]);
    expect(await sha256(path.join(folder, "film.mp4"))).toBe(await sha256(film));
    const menu = await readFile(path.join(folder, "index.html"), "utf8");
    expect(menu).toContain("The &lt;quay&gt; &amp; the night");
    expect(menu).not.toMatch(/https?:/);
    const facts = JSON.parse(await readFile(path.join(folder, "disc.json"), "utf8")) as { chapters: object[] };
    expect(facts).toMatchObject({
      firstPlay: "menu",
      chapters: [{ title: "The <quay> & the night", startSeconds: 0 }],
    });
    const { width, height } = await sharp(path.join(folder, "menu/01.jpg")).metadata();
    expect([width, height]).toEqual([480, 270]);
    expect(standIns.drive.state.medium).toMatchObject({ state: "written", label: "REGATTA" });
    // What the drive wrote, file by file.
    const discs = path.join(studio.folder, "stand-ins", "discs");
    const [disc] = await readdir(discs);
    for (const file of files.filter((name) => name !== "menu"))
      expect(await sha256(path.join(discs, present(disc), file))).toBe(await sha256(path.join(folder, file)));
    // That disc is written: the next one wants another.
    expect(await rests(await deliveries.add(showId, discWish()))).toMatchObject({
      state: "failed",
      error: expect.stringContaining("not blank") as string,
    });
    const film2 = await rests(await deliveries.add(showId, discWish({ onlyFolder: true, firstPlay: "film" })));
    expect(await readFile(path.join(present(film2.place), "index.html"), "utf8")).toContain("play(0);");
  });

  it("fails as drives fail, half way or in what was read, and the disc is spoilt", async () => {
    for (const [trouble, words] of [
      ["disc-write-fails", "lost the track"],
      ["disc-verify-fails", "is not what was written"],
    ] as const) {
      standIns.drive.insert("double");
      standIns.troubles.ask(trouble);
      const failed = await rests(await deliveries.add(showId, discWish()));
      expect(failed).toMatchObject({ state: "failed", error: expect.stringContaining(words) as string });
      expect(standIns.drive.state.medium).toMatchObject({ state: "spoilt" });
      standIns.drive.insert("double");
      await deliveries.resume(failed.id);
      expect(await rests(failed)).toMatchObject({ state: "done" });
    }
  });

  it("says beforehand that a film wants two layers, and that one is too large for any disc", async () => {
    const {
      queue,
      stores: { exports },
    } = studio.studio;
    const large = async (bytes: number): Promise<string> => {
      const job = await exports.create(showId, studio.document, mainOutput(studio.document));
      await mkdir(path.dirname(queue.filmPath(job)), { recursive: true });
      await copyFile(film, queue.filmPath(job));
      // Nothing but a length: the disk holds no more than the film.
      await truncate(queue.filmPath(job), bytes);
      await exports.jobs.end(job.id, { state: "done", step: "Done", error: null, progress: 1 });
      return job.id;
    };
    const double = await rests(
      await deliveries.add(showId, discWish({ exportId: await large(5e9), onlyFolder: true })),
    );
    expect(double).toMatchObject({ state: "done", remark: expect.stringContaining("two layers") as string });
    standIns.drive.insert("single");
    const short = await rests(await deliveries.add(showId, discWish({ exportId: double.wish.exportId })));
    expect(short).toMatchObject({ state: "failed", error: expect.stringContaining("two layers, 8.5 GB") as string });
    const none = await rests(await deliveries.add(showId, discWish({ exportId: await large(9e9), onlyFolder: true })));
    expect(none).toMatchObject({ state: "failed", error: expect.stringContaining("9.0 GB") as string });
  });
});

describe("what is paid", () => {
  it("is one payment for one key, is never less because somebody asks again, and outlives a restart", async () => {
    const payments = new PaymentClient(standIns.address);
    const wish = {
      key: "a key of ours",
      minorUnits: 12_000,
      currency: "EUR",
      what: "Regatta <b>",
      returnUrl: "http://127.0.0.1:1/p/x",
    };
    standIns.troubles.ask("payment-away");
    await expect(payments.begin(wish)).rejects.toMatchObject({ code: "service-unreachable" });
    const [first, second] = [await payments.begin(wish), await payments.begin(wish)];
    expect(second).toEqual(first);
    await expect(payments.begin({ ...wish, minorUnits: 1 })).rejects.toMatchObject({ code: "service-refused" });
    const page = await (await fetch(first.checkoutUrl)).text();
    expect(page).toMatch(/EUR\s120\.00/);
    expect(page).not.toContain("Regatta <b>");
    const press = (url: string, outcome: string): Promise<Response> =>
      fetch(url, { method: "POST", body: new URLSearchParams({ outcome }), redirect: "manual" });
    expect(await payments.state(first.id)).toMatchObject({ state: "begun" });
    expect((await press(first.checkoutUrl, "pay")).headers.get("Location")).toBe(wish.returnUrl);
    await press(first.checkoutUrl, "refuse");
    expect(await payments.state(first.id)).toMatchObject({ state: "paid" });
    for (const [outcome, state] of [
      ["refuse", "refused"],
      ["leave", "abandoned"],
    ] as const) {
      const { id, checkoutUrl } = await payments.begin({ ...wish, key: `another key, ${outcome}` });
      await press(checkoutUrl, outcome);
      expect(await payments.state(id)).toMatchObject({ state: state });
    }
    await standIns.close();
    standIns = await startStandIns({
      port: 0,
      folder: path.join(studio.folder, "stand-ins"),
      now: () => Date.now() + 31 * 60_000,
    });
    const again = new PaymentClient(standIns.address);
    expect(await again.state(first.id)).toMatchObject({ state: "paid" });
    const late = await again.begin({ ...wish, key: "a key of later" });
    expect(await again.state(late.id)).toMatchObject({ state: "begun" });
  });
});

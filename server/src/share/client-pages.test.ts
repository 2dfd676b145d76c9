import { copyFile, mkdir, readFile, rename } from "node:fs/promises";
import { request as plainRequest } from "node:http";
import path from "node:path";
import type { ClientFilm, StudioClientPage } from "@humming-tide/contract";
import { itemAt, present } from "@humming-tide/core/presence";
import { type ClientOffer, FIRST_CLIENT_OFFER, mainOutput, type ShowDocument } from "@humming-tide/core/show";
import sharp from "sharp";
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from "vitest";
import { type FilmStudio, openFilmStudio } from "../testing/film-studio.ts";
import { openTestServer, type TestServer } from "../testing/test-server.ts";
import { createClientApp } from "./client-app.ts";
import { offeredFilms } from "./offered-films.ts";
import { openClientPages } from "./open-client-pages.ts";
import type { PaymentService, PaymentWish, ServicePayment } from "./payment-service.ts";

/** A service that does what it is told. */
class ToldService implements PaymentService {
  readonly wishes: PaymentWish[] = [];
  next: ServicePayment["state"] = "begun";
  /** What is paid, where it is another sum than was agreed. */
  paidMinorUnits: number | null = null;

  begin(wish: PaymentWish): Promise<{ id: string; checkoutUrl: string }> {
    if (!this.wishes.some(({ key }) => key === wish.key)) this.wishes.push(wish);
    const { key } = wish;
    return Promise.resolve({ id: `service-${key}`, checkoutUrl: `http://127.0.0.1:9/checkout/${key}` });
  }

  state(id: string): Promise<ServicePayment> {
    const { minorUnits, currency } = present(this.wishes.find(({ key }) => id === `service-${key}`));
    return Promise.resolve({ state: this.next, minorUnits: this.paidMinorUnits ?? minorUnits, currency });
  }
}

const OFFER: ClientOffer = { ...FIRST_CLIENT_OFFER, downloads: true };
const PLAIN = { shown: true, expiresAt: null, embedOrigins: [] };
let studio: FilmStudio;
let sides: ReturnType<typeof openClientPages>;
let service: ToldService;
let server: TestServer;
let address: string;
let now = 0;
let showId = "";
let token: string;

beforeAll(async () => {
  studio = await openFilmStudio(3, 8);
  await studio.studio.queue.start();
  service = new ToldService();
  sides = openClientPages(studio.studio, { service, address: () => address, now: () => now });
  server = await openTestServer(createClientApp(sides.visits, () => address, studio.studio.folder));
  address = server.address;
  now = Date.now();
  ({ showId, token } = await publishedShow({}));
});
afterAll(async () => {
  await server.close();
  await studio.close();
});
beforeEach(() => {
  now = Date.now();
});

/** A show with a page and its first version. Its film is exported once for all of them. */
async function publishedShow(offer: Partial<ClientOffer>): Promise<{ showId: string; token: string }> {
  const output = mainOutput(studio.document);
  const document: ShowDocument = { ...studio.document, outputs: [output], clientOffer: { ...OFFER, ...offer } };
  const { shows, queue } = studio.studio;
  const { id } = await shows.create("Regatta", document);
  if (showId) {
    const [made] = await queue.listForShow(showId);
    const { page, download } = offeredFilms(output, document.clientOffer);
    for (const film of download && JSON.stringify(download) !== JSON.stringify(page) ? [page, download] : [page]) {
      const { exports } = studio.studio.stores;
      const job = await exports.create(id, document, film);
      await mkdir(path.dirname(queue.filmPath(job)), { recursive: true });
      await copyFile(queue.filmPath(present(made)), queue.filmPath(job));
      await exports.finish(job.id, present(made));
      await exports.jobs.end(job.id, { state: "done", step: "Done", error: null, progress: 1 });
    }
  }
  await sides.clientPages.change(id, PLAIN);
  await publish(id, "First cut");
  return { showId: id, token: tokenOf(await sides.clientPages.get(id)) };
}

const tokenOf = ({ page }: StudioClientPage): string => itemAt(present(page).address.split("/p/"), 1);

async function publish(id: string, note: string): Promise<void> {
  await sides.clientPages.publish(id, note);
  await vi.waitFor(async () => expect((await sides.clientPages.get(id)).versions[0]).toMatchObject({ state: "live" }), {
    timeout: 120_000,
    interval: 200,
  });
}

interface Answer {
  readonly status: number;
  readonly headers: Headers;
  readonly body: Record<string, unknown>;
}

async function ask(method: string, place: string, body?: unknown, session?: string): Promise<Answer> {
  const response = await fetch(`${address}${place}`, {
    method,
    headers: {
      ...(body === undefined ? {} : { "Content-Type": "application/json" }),
      ...(session === undefined ? {} : { "X-Session": session }),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  return {
    status: response.status,
    headers: response.headers,
    body: text.startsWith("{") ? (JSON.parse(text) as Answer["body"]) : {},
  };
}

const enter = async (pin: string | null = null, at = token): Promise<Answer> => ask("POST", `/p/${at}/enter`, { pin });
const sessionFor = async (at = token, pin: string | null = null): Promise<string> =>
  (await enter(pin, at)).body["session"] as string;
const film = async (session: string, at = token): Promise<ClientFilm> =>
  (await ask("GET", `/p/${at}/film`, undefined, session)).body as unknown as ClientFilm;

describe("what the client sees", () => {
  it("is the newest version's film, in parts as a player asks for them, and nothing of the studio", async () => {
    const session = await sessionFor();
    const shown = await film(session);
    expect(shown).toMatchObject({
      title: "Regatta",
      versions: [{ number: 1, note: "First cut" }],
      film: { version: 1, width: 320, height: 180, mime: "video/mp4" },
      download: { price: null, isPaid: true },
    });
    expect(JSON.stringify(shown)).not.toMatch(/sha256|fileName|slideId|jpg|wav/);
    const { queue } = studio.studio;
    const [job] = await queue.listForShow(showId);
    const bytes = await readFile(queue.filmPath(present(job)));
    const part = await fetch(`${address}/p/${token}/watch/1?session=${session}`, { headers: { Range: "bytes=10-19" } });
    expect(part.status).toBe(206);
    expect(Buffer.from(await part.arrayBuffer()).equals(bytes.subarray(10, 20))).toBe(true);
    const whole = await fetch(`${address}/p/${token}/download?session=${session}`);
    expect(whole.headers.get("Content-Disposition")).toContain("Regatta");
    expect(Buffer.from(await whole.arrayBuffer()).equals(bytes)).toBe(true);
    await rename(queue.filmPath(present(job)), `${queue.filmPath(present(job))}.away`);
    const gone = await ask("GET", `/p/${token}/watch/1`, undefined, session);
    await rename(`${queue.filmPath(present(job))}.away`, queue.filmPath(present(job)));
    expect([gone.status, JSON.stringify(gone.body)]).toEqual([404, expect.not.stringContaining(studio.folder)]);
    const beyond = await fetch(`${address}/p/${token}/watch/1?session=${session}`, {
      headers: { Range: "bytes=99999999-" },
    });
    expect(beyond.status).toBe(416);
  });

  it("carries the mark on the page, on downloads, on both or on neither: two files only where they differ", async () => {
    const mark = { text: "Proof", place: "middle", strength: 0.5 } as const;
    const marked = await publishedShow({ watermark: { ...mark, onPage: true, onDownloads: false } });
    const jobs = await studio.studio.queue.listForShow(marked.showId);
    expect(jobs.map(({ output }) => output.watermark).sort()).toEqual([mark, null].sort());
    const session = await sessionFor(marked.token);
    const [seen, taken] = await Promise.all(
      ["watch/1", "download"].map(async (what) =>
        Buffer.from(await (await fetch(`${address}/p/${marked.token}/${what}?session=${session}`)).arrayBuffer()),
      ),
    );
    const { queue } = studio.studio;
    const withMark = present(jobs.find(({ output }) => output.watermark !== null));
    const without = present(jobs.find(({ output }) => output.watermark === null));
    expect(present(seen).equals(await readFile(queue.filmPath(withMark)))).toBe(true);
    expect(present(taken).equals(await readFile(queue.filmPath(without)))).toBe(true);
    const { shows } = studio.studio;
    const both = { ...mark, onPage: true, onDownloads: true };
    await shows.edit(marked.showId, (show) => ({ ...show, clientOffer: { ...show.clientOffer, watermark: both } }));
    await publish(marked.showId, "Marked throughout");
    // The film with the mark was there already.
    expect(await queue.listForShow(marked.showId)).toHaveLength(2);
  });

  it("is a new version when the studio publishes one; comments stay with their slides", async () => {
    const own = await publishedShow({});
    const session = await sessionFor(own.token);
    const said = await ask(
      "POST",
      `/p/${own.token}/comments`,
      { threadId: null, name: "Ada", text: "Not this one, please", version: 1, seconds: 4 },
      session,
    );
    expect(said.status).toBe(201);
    const [comment] = (await sides.clientPages.get(own.showId)).comments;
    const plan = (await studio.studio.shows.get(own.showId)).document;
    expect(plan.slides.map(({ id }) => id)).toContain(present(comment).slideId);
    const { shows } = studio.studio;
    await shows.edit(own.showId, (show) => ({ ...show, slides: [...show.slides].reverse() }));
    expect((await sides.clientPages.get(own.showId)).versions[0]).toMatchObject({ isNewest: false });
    await publish(own.showId, "The other way round");
    await sides.clientPages.answer(own.showId, present(comment).id, "Turned round");
    await sides.clientPages.mark(own.showId, present(comment).id, { done: true, revision: 1 });
    expect((await sides.clientPages.get(own.showId)).comments[0]).toMatchObject({ done: true, doneRevision: 1 });
    const shown = await film(session, own.token);
    // What the studio ties to it is not the client's.
    expect(shown.comments[0]).not.toHaveProperty("doneRevision");
    expect(shown.film.version).toBe(2);
    expect((await ask("GET", `/p/${own.token}/watch/1`, undefined, session)).status).toBe(409);
    expect(shown.versions.map(({ note }) => note)).toEqual(["The other way round", "First cut"]);
    expect(shown.comments).toMatchObject([
      { from: "client", name: "Ada", version: 1, seconds: 4, done: true, threadId: null },
      { from: "studio", text: "Turned round", threadId: present(comment).id, version: 1 },
    ]);
    // What is talked about again is open again.
    const again = { threadId: present(comment).id, name: "Ada", text: "Better!", version: 2, seconds: 0 };
    expect((await ask("POST", `/p/${own.token}/comments`, again, session)).status).toBe(201);
    expect(itemAt((await film(session, own.token)).comments, 0).done).toBe(false);
    expect((await sides.clientPages.get(own.showId)).comments[0]).toMatchObject({ done: false, doneRevision: null });
  });
});

describe("who gets in", () => {
  it("waits longer after each wrong PIN, and meanwhile takes not even the right one, however many ask at once", async () => {
    const own = await publishedShow({});
    await sides.clientPages.change(own.showId, { ...PLAIN, pin: "0427" });
    expect(await enter(null, own.token)).toMatchObject({ status: 401, body: { code: "pin-wanted" } });
    const codes = (await Promise.all(Array.from({ length: 12 }, () => enter("1111", own.token)))).map(
      ({ status }) => status,
    );
    // Three were tried; then this visitor waits.
    expect(codes.sort()).toEqual([403, 403, 403, ...Array.from({ length: 9 }, () => 429)]);
    expect(await enter("0427", own.token)).toMatchObject({ status: 429, body: { code: "pin-locked" } });
    now += 2001;
    expect((await enter("2222", own.token)).status).toBe(403);
    now += 2001;
    expect((await enter("0427", own.token)).status).toBe(429);
    now += 2000;
    const session = (await enter("0427", own.token)).body["session"] as string;
    expect((await film(session, own.token)).title).toBe("Regatta");
    // The studio sees that somebody tried; nobody waits any more.
    expect((await sides.clientPages.get(own.showId)).page).toMatchObject({
      ...{ wrongTries: 4, lockedUntil: null, waitingVisitors: 0 },
    });
    // Another PIN ends the session; so does another address.
    await sides.clientPages.change(own.showId, { ...PLAIN, pin: "9999" });
    expect((await ask("GET", `/p/${own.token}/film`, undefined, session)).status).toBe(401);
    await sides.clientPages.newAddress(own.showId);
    expect(await enter("9999", own.token)).toMatchObject({ status: 404, body: { code: "page-unknown" } });
  });

  it("holds who guesses, and not the client; the studio sees it and ends it", async () => {
    const own = await publishedShow({});
    await sides.clientPages.change(own.showId, { ...PLAIN, pin: "0427" });
    const from = (visitor: string, pin: string): Promise<string> =>
      sides.visits.enter(own.token, pin, visitor).then(
        () => "in",
        (error: { code: string }) => error.code,
      );
    for (let i = 0; i < 3; i++) expect(await from("198.51.100.1", "1111")).toBe("pin-wrong");
    expect(await from("198.51.100.1", "0427")).toBe("pin-locked");
    // Another visitor, and the same one from another network of the address space, are not held.
    expect(await from("203.0.113.5", "0427")).toBe("in");
    expect((await sides.clientPages.get(own.showId)).page).toMatchObject({ wrongTries: 3, waitingVisitors: 1 });
    // A crowd that guesses is held together, also newcomers; whoever was let in before is not.
    for (let i = 0; i < 25; i++) await from(`198.51.100.${i + 10}`, "2222");
    expect(await from("198.51.100.99", "0427")).toBe("pin-locked");
    expect(await from("203.0.113.5", "0427")).toBe("in");
    expect(present((await sides.clientPages.get(own.showId)).page).lockedUntil).not.toBeNull();
    await sides.clientPages.endWaiting(own.showId);
    expect(await from("198.51.100.99", "0427")).toBe("in");
    expect(await from("198.51.100.1", "0427")).toBe("in");
    expect((await sides.clientPages.get(own.showId)).page).toMatchObject({
      ...{ wrongTries: 0, lockedUntil: null, waitingVisitors: 0 },
    });
    // After a day without wrong PINs the old ones are forgotten.
    for (let i = 0; i < 3; i++) await from("198.51.100.7", "3333");
    now += 24 * 3_600_000 + 1;
    expect(await from("198.51.100.7", "3333")).toBe("pin-wrong");
    expect(await from("198.51.100.7", "0427")).toBe("in");
  });

  it("is closed when it is hidden, over or its show deleted, also for who is in already; and open again after", async () => {
    const own = await publishedShow({});
    const session = await sessionFor(own.token);
    const status = async (): Promise<number> =>
      (await ask("GET", `/p/${own.token}/watch/1`, undefined, session)).status;
    await sides.clientPages.change(own.showId, { ...PLAIN, shown: false });
    expect(await status()).toBe(410);
    expect((await enter(null, own.token)).status).toBe(410);
    const over = new Date(now + 5000).toISOString();
    await sides.clientPages.change(own.showId, { ...PLAIN, expiresAt: over });
    expect(await status()).toBe(200);
    now += 5000;
    expect(await status()).toBe(410);
    await sides.clientPages.change(own.showId, PLAIN);
    await studio.studio.shows.put(own.showId, "deleted");
    expect(await status()).toBe(404);
    await studio.studio.shows.put(own.showId, "archive");
    expect(await status()).toBe(200);
    now += 25 * 3_600_000;
    expect(await status()).toBe(401);
  });

  it("is of one show only: a copy offers the same and has no page, and a page that is taken down leaves what was paid", async () => {
    const own = await publishedShow({ price: { minorUnits: 500, currency: "JPY" } });
    const { shows } = studio.studio;
    const { document } = await shows.get(own.showId);
    const { id: copyId } = await shows.create("Copy", { ...document, title: "Copy" });
    const copy = await sides.clientPages.get(copyId);
    expect(copy).toMatchObject({ page: null, versions: [], comments: [], payments: [] });
    await expect(sides.clientPages.publish(copyId, "")).rejects.toMatchObject({ code: "no-client-page" });
    service.next = "paid";
    await ask("POST", `/p/${own.token}/payments`, { key: crypto.randomUUID() }, await sessionFor(own.token));
    await sides.clientPages.remove(own.showId);
    expect((await enter(null, own.token)).status).toBe(404);
    expect(await sides.clientPages.get(own.showId)).toMatchObject({
      page: null,
      versions: [],
      payments: [{ state: "paid" }],
    });
  });
});

describe("what is downloaded and paid", () => {
  it("is nothing where downloads are off, and nothing before it is paid, whatever the browser says", async () => {
    const closed = await publishedShow({ downloads: false });
    const inside = await sessionFor(closed.token);
    expect((await film(inside, closed.token)).download).toBeNull();
    expect((await ask("GET", `/p/${closed.token}/download`, undefined, inside)).status).toBe(403);

    const price = { minorUnits: 12_000, currency: "EUR" };
    const paid = await publishedShow({ price });
    const session = await sessionFor(paid.token);
    const take = async (): Promise<number> =>
      (await ask("GET", `/p/${paid.token}/download?paid=yes`, undefined, session)).status;
    const pay = (key: string, more: object = {}): Promise<Answer> =>
      ask("POST", `/p/${paid.token}/payments`, { key, ...more }, session);
    expect(await take()).toBe(402);
    const key = crypto.randomUUID();
    const before = service.wishes.length;
    // Pressed twice, sent twice, and with a price of its own: one payment of ours.
    service.next = "begun";
    const answers = await Promise.all([pay(key), pay(key, { minorUnits: 1 }), pay(key)]);
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
    expect(new Set(answers.map(({ body }) => body["checkoutUrl"])).size).toBe(1);
    expect(service.wishes.slice(before)).toMatchObject([price]);
    expect((await sides.clientPages.get(paid.showId)).payments).toMatchObject([{ state: "begun", ...price }]);
    expect(await take()).toBe(402);
    let begun = key;
    for (const state of ["refused", "abandoned"] as const) {
      service.next = state;
      expect(await take()).toBe(402);
      expect((await sides.clientPages.get(paid.showId)).payments[0]).toMatchObject({ state });
      expect((await pay(begun)).body["code"]).toBe("payment-ended");
      service.next = "begun";
      begun = crypto.randomUUID();
      expect((await pay(begun)).status).toBe(201);
    }
    expect((await sides.clientPages.get(paid.showId)).payments).toHaveLength(3);
    service.next = "paid";
    expect(await take()).toBe(200);
    // Paid is paid, and nobody pays twice.
    service.next = "refused";
    expect(await take()).toBe(200);
    expect((await pay(crypto.randomUUID())).status).toBe(409);
  });

  it("plays a smaller film with a watermark while it is not paid, or the film itself where the studio wants that", async () => {
    const price = { minorUnits: 12_000, currency: "EUR" };
    const large = { width: 1920, height: 1080 };
    const output = { ...mainOutput(studio.document), size: large };
    const offer = { ...OFFER, price };
    expect(offeredFilms(output, offer)).toMatchObject({
      page: { size: { width: 960, height: 540 }, quality: "small", watermark: { text: "Preview" } },
      download: { size: large, quality: "fine", watermark: null },
    });
    const upright = { ...output, size: { width: 1080, height: 1350 } };
    expect(offeredFilms(upright, offer).page.size).toEqual({ width: 768, height: 960 });
    const own = { text: "Regatta", place: "top", strength: 0.3 } as const;
    expect(
      offeredFilms(output, { ...offer, watermark: { ...own, onPage: true, onDownloads: false } }).page.watermark,
    ).toEqual(own);
    for (const given of [
      { ...offer, pageFilm: "full" as const },
      { ...offer, price: null },
    ])
      expect(offeredFilms(output, given).page).toMatchObject({ size: large, watermark: null });
    // And so it is served: two files, and what is watched is not what is paid for.
    const paid = await publishedShow({ price });
    const [page, download] = (await studio.studio.queue.listForShow(paid.showId)).slice(0, 2);
    expect(new Set([present(page).output.watermark?.text, present(download).output.watermark?.text])).toEqual(
      new Set(["Preview", undefined]),
    );
  });

  it("counts only the sum that was agreed, and keeps few payments open", async () => {
    const price = { minorUnits: 12_000, currency: "EUR" };
    const paid = await publishedShow({ price });
    const session = await sessionFor(paid.token);
    const pay = (): Promise<Answer> => ask("POST", `/p/${paid.token}/payments`, { key: crypto.randomUUID() }, session);
    const take = async (): Promise<number> =>
      (await ask("GET", `/p/${paid.token}/download`, undefined, session)).status;
    service.next = "begun";
    const answers = await Promise.all(Array.from({ length: 40 }, pay));
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 201));
    expect(new Set(answers.map(({ body }) => body["checkoutUrl"])).size).toBe(3);
    expect((await sides.clientPages.get(paid.showId)).payments).toHaveLength(3);
    service.next = "paid";
    service.paidMinorUnits = 100;
    expect(await take()).toBe(402);
    expect((await sides.clientPages.get(paid.showId)).payments.map(({ state }) => state)).toEqual([
      "differs",
      "differs",
      "differs",
    ]);
    service.next = "begun";
    service.paidMinorUnits = null;
    expect((await pay()).status).toBe(201);
    service.next = "paid";
    expect(await take()).toBe(200);
    service.next = "begun";
  });
});

describe("from outside", () => {
  /** As it is typed: without what fetch puts right in a path. */
  function raw(
    method: string,
    place: string,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; text: string }> {
    return new Promise((resolve, reject) => {
      const { port } = new URL(address);
      const asked = plainRequest({ port, host: "127.0.0.1", method, path: place, headers }, (response) => {
        let text = "";
        response.on("data", (chunk: Buffer) => {
          text += chunk.toString("latin1");
        });
        response.on("end", () => resolve({ status: present(response.statusCode), text }));
      });
      asked.on("error", reject);
      asked.end();
    });
  }

  it("nothing but the chosen output is reached: by paths, by other pages' addresses, by methods and by names", async () => {
    const other = await publishedShow({ downloads: false });
    const [session, otherSession] = [await sessionFor(), await sessionFor(other.token)];
    const [job] = await studio.studio.queue.listForShow(showId);
    const data = [
      ...[
        "/",
        "/api/shows",
        `/api/shows/${showId}`,
        `/api/exports/${present(job).id}/film`,
        "/api/health",
        "/index.html",
      ],
      ...[
        "/p",
        "/p/",
        `/p/${token}/`,
        `/p/${token}/watch/1/`,
        `/p/${token}/watch/2`,
        `/p/${token}/watch/1e0`,
        `/P/${token}/watch`,
        `/p/${token}/Watch`,
      ],
      ...["/assets/../index.html", "/assets/%2e%2e/%2e%2e/index.html", "/assets/..%2f..%2fpackage.json", "/assets/"],
      ...["/assets/....//....//package.json", "/assets/%00", "/p/%2e%2e%2f%2e%2e%2fetc%2fpasswd/watch"],
      ...[`/p/${token}/../../api/shows`, `/p/${token}/..%2f..%2fapi%2fshows`, `/p/${token}/watch/../../../etc/passwd`],
      ...[`//p/${token}/watch`, `/p//${token}/watch`, `/p/${token}%00/watch`, `/p/${token}%20/watch`, "/.git/config"],
      ...[`http://127.0.0.1/api/shows`, `/p/${showId}/watch`, `/p/${present(job).id}/watch`, "/p/__proto__/film"],
    ];
    for (const place of data) {
      const { status, text } = await raw("GET", place, { "X-Session": session });
      expect(status, place).toBeGreaterThanOrEqual(400);
      expect(text, place).not.toMatch(/ftyp|root:|"slides"|workspaces|private/);
    }
    // Another page's session, in any place that one is looked for.
    for (const what of ["film", "watch/1", "download"]) {
      expect((await raw("GET", `/p/${token}/${what}`)).status).toBe(401);
      expect((await raw("GET", `/p/${token}/${what}`, { "X-Session": otherSession })).status).toBe(401);
      expect((await raw("GET", `/p/${token}/${what}?session=${otherSession}`)).status).toBe(401);
      expect((await raw("GET", `/p/${token}/${what}?session=${otherSession}&session=${session}`)).status).toBe(401);
      expect((await raw("GET", `/p/${other.token}/${what}`, { "X-Session": session })).status).toBe(401);
      expect(
        (await raw("GET", `/p/${token}/${what}`, { "X-Session": otherSession, Cookie: `session=${session}` })).status,
      ).toBe(401);
    }
    // Methods that are not meant.
    for (const method of ["PUT", "DELETE", "PATCH", "OPTIONS", "TRACE", "POST"])
      expect(
        (await raw(method, `/p/${token}/watch/1`, { "X-Session": session })).status,
        method,
      ).toBeGreaterThanOrEqual(400);
    const hidden = { "X-Session": session, "X-HTTP-Method-Override": "DELETE" };
    expect((await raw("GET", `/p/${token}/film`, hidden)).status).toBe(200);
    // Whatever it is called, and whoever is said to have asked, it is the same page and says
    // nothing about where it lies.
    for (const name of ["evil.example", "127.0.0.1:1", "localhost", "x\ty"]) {
      const forwarded = { "X-Forwarded-Host": name, "X-Original-URL": "/api/shows", "X-Rewrite-URL": "/api/shows" };
      const { status, text } = await raw("GET", `/p/${token}`, { Host: name, ...forwarded }).catch(() => ({
        status: 400,
        text: "",
      }));
      expect([200, 400]).toContain(status);
      expect(text).not.toContain("evil.example");
    }
    expect((await ask("POST", `/p/${token}/payments`, { key: crypto.randomUUID() }, session)).body["code"]).toBe(
      "nothing-to-pay",
    );
  });

  it("takes no comment that is too long, on no version, in a thread of another show, or in a flood", async () => {
    const own = await publishedShow({});
    const session = await sessionFor(own.token);
    const say = (more: object): Promise<Answer> => {
      const plain = { threadId: null, name: "Ada", text: "Hello", version: 1, seconds: 1 };
      return ask("POST", `/p/${own.token}/comments`, { ...plain, ...more }, session);
    };
    expect((await say({ text: "x".repeat(2001) })).status).toBe(400);
    expect((await say({ text: "x".repeat(40_000) })).status).toBe(413);
    expect((await say({ text: " " })).status).toBe(400);
    expect((await say({ seconds: -1 })).status).toBe(400);
    expect((await say({ version: 2 })).status).toBe(404);
    const elsewhere = await ask(
      "POST",
      `/p/${token}/comments`,
      { threadId: null, name: "Bo", text: "Elsewhere", version: 1, seconds: 1 },
      await sessionFor(),
    );
    expect((await say({ threadId: elsewhere.body["id"] })).status).toBe(404);
    for (const name of ["Studio", " s t u d i o ", "The Studio", "ЅTUDІО", "Ｓｔｕｄｉｏ"])
      expect((await say({ name })).status).toBe(400);
    const many = Array.from({ length: 200 }, (_, i) => say({ text: `<img src=x onerror=alert(${i})>` }));
    const statuses = (await Promise.all(many)).map(({ status }) => status);
    expect([201, 429].map((wanted) => statuses.filter((status) => status === wanted).length)).toEqual([60, 140]);
    expect((await say({})).status).toBe(429);
    expect((await sides.clientPages.get(own.showId)).comments).toHaveLength(60);
  });

  it("may be framed by the pages that the studio names and by nobody else", async () => {
    const policy = async (): Promise<string> =>
      (await ask("GET", `/p/${token}`)).headers.get("Content-Security-Policy") ?? "";
    expect(await policy()).toContain("frame-ancestors 'none'");
    await sides.clientPages.change(showId, { ...PLAIN, embedOrigins: ["https://studio.example"] });
    expect(await policy()).toContain("frame-ancestors https://studio.example");
    expect((await ask("GET", `/p/${token}`)).headers.get("X-Frame-Options")).toBeNull();
    const { headers } = await ask("GET", `/p/${"a".repeat(32)}`);
    expect(headers.get("Content-Security-Policy")).toContain("frame-ancestors 'none'");
    expect(headers.get("Referrer-Policy")).toBe("no-referrer");
  });
});

describe("the studio on its pages", () => {
  const pageText = async (at: string): Promise<string> => (await fetch(`${address}/p/${at}`)).text();
  const logo = (): Promise<Buffer> =>
    sharp({ create: { width: 900, height: 300, channels: 4, background: "#20406080" } })
      .png()
      .toBuffer();

  it("has its name, colour, logo and greeting there, made anew and small", async () => {
    const { identity } = sides;
    await identity.change({ name: "Harbour Films", accent: "#20a060" });
    await identity.setLogo(await logo());
    const own = await publishedShow({ greeting: "Dear crews, <here> it is." });
    const film = (await ask("GET", `/p/${own.token}/film`, undefined, await sessionFor(own.token))).body as ClientFilm;
    expect(film.greeting).toBe("Dear crews, <here> it is.");
    expect(film.studio).toMatchObject({ name: "Harbour Films", accent: "#20a060" });
    const png = Buffer.from(itemAt(present(film.studio.logo).split(","), 1), "base64");
    expect(await sharp(png).metadata()).toMatchObject({ format: "png", width: 480, height: 160, hasAlpha: true });
    await expect(identity.setLogo(Buffer.from("<svg onload='x'/>"))).rejects.toMatchObject({ code: "logo-damaged" });
    await expect(identity.setLogo(Buffer.alloc(0))).rejects.toMatchObject({ code: "logo-damaged" });
    expect((await identity.setLogo(null)).logo).toBeNull();
  });

  it("shows title and picture where a link is shared, and nothing of them behind a PIN or on a closed page", async () => {
    const own = await publishedShow({ greeting: `A "quoted" & <b>bold</b> word, $& and $'` });
    const open = await pageText(own.token);
    expect(open).toContain('<meta property="og:title" content="Regatta" />');
    expect(open).toContain(`<meta property="og:image" content="${address}/p/${own.token}/cover" />`);
    expect(open).toContain("A &quot;quoted&quot; &amp; &lt;b&gt;bold&lt;/b&gt; word, $&amp; and $'");
    const cover = await fetch(`${address}/p/${own.token}/cover`);
    expect([cover.status, cover.headers.get("content-type")]).toEqual([200, "image/jpeg"]);
    expect((await sharp(Buffer.from(await cover.arrayBuffer())).metadata()).format).toBe("jpeg");

    await sides.clientPages.change(own.showId, { ...PLAIN, pin: "0427" });
    expect(await pageText(own.token)).not.toContain("og:");
    expect((await ask("GET", `/p/${own.token}/cover`)).status).toBe(401);
    const session = await sessionFor(own.token, "0427");
    expect((await fetch(`${address}/p/${own.token}/cover?session=${session}`)).status).toBe(200);
    await sides.clientPages.change(own.showId, { ...PLAIN, pin: null, shown: false });
    expect(await pageText(own.token)).not.toContain("og:");
    expect((await ask("GET", `/p/${own.token}/cover`)).status).toBe(410);
    // Whoever guesses addresses learns nothing from the page.
    expect(await pageText("0".repeat(own.token.length))).not.toContain("og:");
  });
});

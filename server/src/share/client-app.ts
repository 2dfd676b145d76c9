import { readFile } from "node:fs/promises";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { commentWishSchema, enterSchema, paymentWishSchema } from "@humming-tide/contract";
import express, { type Express, type Request, type Response } from "express";
import helmet from "helmet";
import type { DataFolder } from "../data-folder.ts";
import { escapedHtml } from "../escaped-html.ts";
import { answerErrors } from "../http/errors.ts";
import { refuseWithoutFolder } from "../http/folder-there.ts";
import { jsonBody } from "../http/json-body.ts";
import { requestError } from "../http/request-errors.ts";
import { closeIdleBodies, refuseZeroBytes } from "../http/request-guards.ts";
import { clientPageError } from "./client-page-errors.ts";
import type { ClientVisits, LinkCard, ServedFilm } from "./client-visits.ts";

/** Built with the page (npm run build). */
const PAGE_FOLDER = fileURLToPath(new URL("../../../web/dist/client", import.meta.url));
const BODY_LIMIT_BYTES = 16 * 1024;

/**
 * What the world may reach: pages of clients and their films, nothing else. It is a server of its
 * own beside the studio's, so that opening it to a network opens nothing of the studio. `address`:
 * where it is served, without a slash at its end.
 */
export function createClientApp(visits: ClientVisits, address: () => string, folder: DataFolder): Express {
  const app = express();
  app.disable("x-powered-by");
  app.set("case sensitive routing", true);
  app.set("strict routing", true);
  // A proxy in front, on this machine, says where a visitor comes from; nobody else is believed.
  app.set("trust proxy", "loopback");
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          fontSrc: ["'self'", "data:"],
          imgSrc: ["'self'", "data:"],
          mediaSrc: ["'self'"],
          connectSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          // Said for each page by itself, below.
          frameAncestors: ["'none'"],
        },
      },
      // Older and coarser than frame-ancestors: it would forbid what a page allows.
      xFrameOptions: false,
      strictTransportSecurity: false,
      // A film may be embedded where its page may.
      crossOriginResourcePolicy: { policy: "same-origin" },
      // Addresses are secrets: they are told to nobody.
      referrerPolicy: { policy: "no-referrer" },
    }),
  );
  app.use(refuseZeroBytes, closeIdleBodies(), refuseWithoutFolder(folder));
  app.use((_request, response, next) => {
    response.set({ "Cache-Control": "no-store", "X-Robots-Tag": "noindex, nofollow" });
    next();
  });
  app.use(
    "/assets",
    express.static(path.join(PAGE_FOLDER, "assets"), { index: false, dotfiles: "deny", redirect: false, maxAge: "1h" }),
  );

  app.get("/p/:token", async (request, response) => {
    const origins = await visits.embedOrigins(request.params.token).catch(() => []);
    const policy = response.getHeader("Content-Security-Policy") as string;
    const ancestors = origins.length > 0 ? origins.join(" ") : "'none'";
    response.set("Content-Security-Policy", policy.replace("frame-ancestors 'none'", `frame-ancestors ${ancestors}`));
    const page = await readFile(path.join(PAGE_FOLDER, "client.html"), "utf8").catch((cause: unknown) => {
      throw clientPageError("page-not-built", {}, { cause });
    });
    // Whether there is a film the page asks for itself; only what a shared link shows stands in it.
    const card = await visits.card(request.params.token);
    const place = `${address()}/p/${request.params.token}`;
    response.type("html").send(card ? withCard(page, card, place) : page);
  });

  const json = jsonBody(BODY_LIMIT_BYTES);
  app.post("/p/:token/enter", json, async (request, response) => {
    const { pin } = enterSchema.parse(request.body);
    response.json({ session: await visits.enter(request.params.token, pin, request.ip ?? "") });
  });
  app.get("/p/:token/film", async (request, response) => {
    response.json(await visits.film(request.params.token, sessionOf(request)));
  });
  app.get("/p/:token/watch/:version", async (request, response) => {
    const { token, version } = request.params;
    const film = await visits.watch(token, sessionOf(request), /^\d{1,5}$/.test(version) ? Number(version) : 0);
    await sendFilm(response, film, "inline");
  });
  app.get("/p/:token/cover", async (request, response) => {
    const place = await visits.cover(request.params.token, sessionOf(request));
    response.type("jpg");
    await sendFile(response, place, "cover-none");
  });
  app.get("/p/:token/download", async (request, response) => {
    await sendFilm(response, await visits.download(request.params.token, sessionOf(request)), "attachment");
  });
  app.post("/p/:token/comments", json, async (request, response) => {
    const wish = commentWishSchema.parse(request.body);
    response.status(201).json(await visits.comment(request.params.token, sessionOf(request), wish));
  });
  app.post("/p/:token/payments", json, async (request, response) => {
    const { token } = request.params;
    const { key } = paymentWishSchema.parse(request.body);
    response.status(201).json(await visits.pay(token, sessionOf(request), key, `${address()}/p/${token}`));
  });
  app.use(() => {
    throw requestError("not-found");
  });
  app.use(answerErrors);
  return app;
}

/** A function puts it in: a title may hold signs that mean something in a replacement. */
const withCard = (page: string, card: LinkCard, place: string): string =>
  page.replace("</head>", () => `${cardMarkup(card, place)}</head>`);

/** Open Graph (ogp.me): what programs show of a link. */
function cardMarkup({ title, greeting, studio, hasCover }: LinkCard, place: string): string {
  const facts: readonly (readonly [string, string])[] = [
    ["og:type", "video.other"],
    ["og:title", title],
    ["og:url", place],
    ...(greeting === "" ? [] : [["og:description", greeting] as const]),
    ...(studio === "" ? [] : [["og:site_name", studio] as const]),
    ...(hasCover ? [["og:image", `${place}/cover`] as const] : []),
  ];
  const metas = facts.map(([property, content]) => `<meta property="${property}" content="${escapedHtml(content)}" />`);
  return metas.join("");
}

/** In a header, or for what a browser fetches by itself in the query. */
function sessionOf(request: Request): string {
  const header = request.get("X-Session");
  if (header !== undefined) return header;
  const { session } = request.query;
  return typeof session === "string" ? session : "";
}

async function sendFilm(
  response: Response,
  { path: place, fileName }: ServedFilm,
  how: "inline" | "attachment",
): Promise<void> {
  if (how === "attachment") response.attachment(fileName);
  response.type(path.extname(place));
  await sendFile(response, place, "film-gone");
}

/**
 * Sends a file, or what of it is asked for. Whatever goes wrong, nobody outside hears where files
 * lie here.
 */
async function sendFile(response: Response, place: string, missing: "cover-none" | "film-gone"): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    const options = { root: path.dirname(place), cacheControl: false, dotfiles: "allow" } as const;
    response.sendFile(path.basename(place), options, (error) => {
      const { code, status } = (error ?? {}) as { code?: string; status?: number };
      // A browser that seeks breaks off what it was reading.
      if (!error || code === "ECONNABORTED" || code === "EPIPE" || code === "ECONNRESET") resolve();
      else if (status === 416) reject(Object.assign(new Error("There is no such part of the film."), { status }));
      else reject(clientPageError(missing));
    });
  });
}

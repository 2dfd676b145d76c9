import path from "node:path";
import { fileURLToPath } from "node:url";
import type { Health } from "@humming-tide/contract";
import express, { type Express } from "express";
import helmet from "helmet";
import type { Background } from "../background/background.ts";
import type { FilmChecks } from "../check/film-checks.ts";
import type { DataFolder } from "../data-folder.ts";
import type { DeliveryQueue } from "../deliveries/delivery-queue.ts";
import type { OutsideAccounts } from "../deliveries/outside-accounts.ts";
import type { ExportQueue } from "../jobs/export-queue.ts";
import type { FilmsFolder } from "../jobs/films-folder.ts";
import type { ProxyQueue } from "../jobs/proxy-queue.ts";
import type { LiveWire } from "../live/live-wire.ts";
import { findFfmpeg } from "../media/ffmpeg.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { Intake } from "../media/intake.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import type { StudioIdentityKeeper } from "../share/studio-identity.ts";
import type { StudioPages } from "../share/studio-pages.ts";
import type { ShelfKeeper } from "../shelf/shelf-keeper.ts";
import type { ShowStore } from "../store/show-store.ts";
import type { Stores } from "../store/stores.ts";
import { checkRoutes } from "./check-routes.ts";
import { clientPageRoutes } from "./client-page-routes.ts";
import { deliveryRoutes } from "./delivery-routes.ts";
import { answerErrors } from "./errors.ts";
import { exportRoutes } from "./export-routes.ts";
import { filmFileRoutes } from "./film-file-routes.ts";
import { refuseWithoutFolder } from "./folder-there.ts";
import { fontRoutes } from "./font-routes.ts";
import { intakeRoutes } from "./intake-routes.ts";
import { liveRoutes } from "./live-routes.ts";
import { mediaRoutes } from "./media-routes.ts";
import { packageRoutes } from "./package-routes.ts";
import { requestError } from "./request-errors.ts";
import { closeIdleBodies, refuseZeroBytes } from "./request-guards.ts";
import { sameOrigin } from "./same-origin.ts";
import { showRoutes } from "./show-routes.ts";
import { songRoutes } from "./song-routes.ts";
import { studioRoutes } from "./studio-routes.ts";
import { templateRoutes } from "./template-routes.ts";

const WEB_FOLDER = fileURLToPath(new URL("../../../web/dist", import.meta.url));

/** Everything that requests are answered with. */
export interface AppParts {
  readonly stores: Stores;
  readonly filmsFolder: FilmsFolder;
  readonly accounts: OutsideAccounts;
  readonly shows: ShowStore;
  readonly library: MediaLibrary;
  readonly intake: Intake;
  readonly queue: ExportQueue;
  readonly checks: FilmChecks;
  readonly proxies: ProxyQueue;
  readonly clientPages: StudioPages;
  readonly deliveries: DeliveryQueue;
  readonly folder: DataFolder;
  readonly background: Background;
  readonly planner: FilmPlanner;
  readonly identity: StudioIdentityKeeper;
  readonly shelf: ShelfKeeper;
  readonly wire: LiveWire;
  readonly hostNames: ReadonlySet<string>;
  readonly version: string;
}

export function createApp(parts: AppParts): Express {
  const app = express();
  app.disable("x-powered-by");
  // Answers are made for one question and not kept: hashing them costs more than it saves. Files
  // have tags of their own.
  app.disable("etag");
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // The engine that shapes letters is WebAssembly of our own.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          workerSrc: ["'self'", "blob:"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          mediaSrc: ["'self'", "blob:"],
          imgSrc: ["'self'", "data:", "blob:"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(sameOrigin(parts.hostNames), refuseZeroBytes);
  app.get("/api/health", async (_request, response) => {
    const ffmpegProblem = await findFfmpeg().then(
      () => null,
      (error: Error) => error.message,
    );
    response.json({ version: parts.version, ffmpegProblem } satisfies Health);
  });
  app.use("/api", closeIdleBodies(), refuseWithoutFolder(parts.folder));
  app.use("/api", liveRoutes(parts.wire));
  app.use("/api", exportRoutes(parts));
  app.use("/api", checkRoutes(parts.shows, parts.checks));
  app.use("/api", filmFileRoutes(parts));
  app.use("/api", deliveryRoutes(parts));
  app.use("/api", clientPageRoutes(parts.clientPages));
  app.use("/api/studio", studioRoutes(parts.identity));
  app.use("/api", packageRoutes(parts));
  app.use("/api/shows", intakeRoutes(parts.shows, parts.intake));
  app.use("/api/shows", showRoutes(parts));
  app.use("/api/templates", templateRoutes(parts.stores.templates));
  app.use("/api/media", mediaRoutes(parts.library));
  app.use("/api/film-fonts", fontRoutes());
  app.use("/api/songs", songRoutes(parts.stores.songs, parts.library));
  app.use("/api", () => {
    throw requestError("not-found");
  });
  app.use(express.static(WEB_FOLDER, { index: false }));
  app.get("/", (_request, response, next) => {
    // The shelf's list is asked for beside the page's code, not behind it.
    response.set("Link", "</api/shows>; rel=preload; as=fetch; crossorigin");
    next();
  });
  // Addresses inside the app are the page's own business.
  app.get("/{*place}", (_request, response) => {
    response.sendFile("index.html", { root: path.resolve(WEB_FOLDER) });
  });
  app.use(answerErrors);
  return app;
}

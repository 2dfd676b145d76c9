import { mkdir, rm } from "node:fs/promises";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import { HummingTideError } from "@humming-tide/core";
import { Background } from "./background/background.ts";
import { FilmChecks } from "./check/film-checks.ts";
import { type DataFolder, dataFolderAt, prepareDataFolder } from "./data-folder.ts";
import { DeliveryQueue } from "./deliveries/delivery-queue.ts";
import { OutsideAccounts, type OutsideServices } from "./deliveries/outside-accounts.ts";
import { createApp } from "./http/app.ts";
import { ExportQueue } from "./jobs/export-queue.ts";
import { FilmsFolder } from "./jobs/films-folder.ts";
import { ProxyQueue } from "./jobs/proxy-queue.ts";
import { LiveWire } from "./live/live-wire.ts";
import { OutsideWatch } from "./live/outside-watch.ts";
import { machineError } from "./machine-errors.ts";
import { ContentStore } from "./media/content-store.ts";
import { FilmPlanner } from "./media/film-planner.ts";
import { Intake } from "./media/intake.ts";
import { MediaLibrary } from "./media/media-library.ts";
import { DiscWriterClient } from "./services/disc-writer-client.ts";
import { PaymentClient } from "./services/payment-client.ts";
import { VideoSiteClient } from "./services/video-site-client.ts";
import type { Settings } from "./settings.ts";
import { createClientApp } from "./share/client-app.ts";
import { openClientPages } from "./share/open-client-pages.ts";
import { ShelfKeeper } from "./shelf/shelf-keeper.ts";
import { asStorageError } from "./storage-errors.ts";
import { openDatabase, type StudioDatabase } from "./store/database.ts";
import { type FolderLock, lockFolder } from "./store/folder-lock.ts";
import { ShowListings } from "./store/show-listings.ts";
import { ShowStore } from "./store/show-store.ts";
import { openStores, type Stores } from "./store/stores.ts";

const VERSION = "0.1.0";

/** A data folder with everything that works on it, with or without a web server in front. */
export interface Studio {
  readonly folder: DataFolder;
  readonly lock: FolderLock;
  readonly background: Background;
  /** Hears of everything that changes. */
  readonly wire: LiveWire;
  readonly stores: Stores;
  readonly filmsFolder: FilmsFolder;
  readonly shows: ShowStore;
  readonly shelf: ShelfKeeper;
  readonly planner: FilmPlanner;
  readonly library: MediaLibrary;
  readonly intake: Intake;
  readonly queue: ExportQueue;
  readonly checks: FilmChecks;
  readonly proxies: ProxyQueue;
  close(): Promise<void>;
}

/**
 * Opens a data folder, which belongs to this process until it is closed. Throws `folder-in-use`,
 * `data-folder` where it cannot be made or written to, and what opening the database throws.
 * `isServer`: others ask at the same time, so long work goes to threads.
 */
export async function openStudio(dataFolder: string, { isServer = false } = {}): Promise<Studio> {
  const folder = dataFolderAt(dataFolder);
  let lock: FolderLock | null = null;
  try {
    await mkdir(dataFolder, { recursive: true });
    lock = await lockFolder(dataFolder);
    await prepareDataFolder(folder);
    const database = await openDatabase(folder.database);
    const background = new Background({ hasThreads: isServer });
    const listings = new ShowListings(database, background);
    await listings.sumUp((done, total) => {
      if (isServer && total > SAID_FROM && done % SAID_FROM === 0)
        console.log(`Bringing shows up to date after an upgrade: ${done} of ${total} …`);
    });
    return studioOf({ folder, database, lock, background, listings });
  } catch (error) {
    await lock?.release();
    throw asOpeningError(error, dataFolder);
  }
}

interface OpenedFolder {
  readonly folder: DataFolder;
  readonly database: StudioDatabase;
  readonly lock: FolderLock;
  readonly background: Background;
  readonly listings: ShowListings;
}

function studioOf({ folder, database, lock, background, listings }: OpenedFolder): Studio {
  const wire = new LiveWire();
  const { tell } = wire;
  const stores = openStores(database);
  const { media, proxies: proxyStore, intakeFiles } = stores;
  const library = new MediaLibrary({ store: new ContentStore(folder), media, proxies: proxyStore, background });
  const planner = new FilmPlanner(library, background);
  const filmsFolder = new FilmsFolder(stores.preferences);
  const queue = new ExportQueue({ folder, stores, filmsFolder, library, planner, background });
  const checks = new FilmChecks(folder, library, planner);
  const proxies = new ProxyQueue(library, media, proxyStore);
  const shows = new ShowStore(database, background, ({ id, revision }) =>
    tell({ kind: "revision", showId: id, revision }),
  );
  const shelf = new ShelfKeeper({ listings, shows, planner, onMeasured: () => tell({ kind: "shelf" }) });
  queue.on("change", (job) => tell({ kind: "export", job }));
  checks.on("change", (run) => tell({ kind: "check", run }));
  proxies.on("change", (state) => tell({ kind: "copy", state }));
  library.on("preparing", (medium) => tell({ kind: "preparing", ...medium }));
  const close = async (): Promise<void> => {
    await Promise.all([queue.close(), checks.close(), proxies.close(), shelf.close(), library.close()]);
    await background.close();
    await database.sequelize.close();
    await lock.release();
  };
  const intake = new Intake(library, intakeFiles);
  const opened = { folder, lock, background, wire, stores, filmsFolder };
  return { ...opened, shows, shelf, library, planner, intake, queue, checks, proxies, close };
}

/** Fewer take less than a second. */
const SAID_FROM = 100;

const CANNOT_BE_USED = new Set(["EACCES", "EPERM", "EROFS", "ENOTDIR", "EEXIST", "SQLITE_CANTOPEN", "SQLITE_READONLY"]);

function asOpeningError(error: unknown, dataFolder: string): unknown {
  if (error instanceof HummingTideError) return error;
  const { code, message, parent } = error as { code?: string; message: string; parent?: { code?: string } };
  if (CANNOT_BE_USED.has(code ?? "") || CANNOT_BE_USED.has(parent?.code ?? ""))
    return machineError("data-folder", { folder: dataFolder, why: message }, { cause: error });
  return asStorageError(error, `the data folder "${dataFolder}" cannot be opened`);
}

export interface RunningServer {
  readonly address: string;
  /** Where client pages are. */
  readonly clientAddress: string;
  readonly studio: Studio;
  close(): Promise<void>;
}

const CLEAR_AWAY_MS = 6 * 3_600_000;

/**
 * Headers come within this, or the connection is closed; bodies may take long, but not stand still
 * (http/request-guards.ts).
 */
const TIMES = {
  headersTimeout: 15_000,
  requestTimeout: 0,
  connectionsCheckingInterval: 5000,
  // Longer than proxies keep idle connections (60 s is common): the side that asks closes first, so
  // that no request meets a connection that is closed just then.
  keepAliveTimeout: 75_000,
};

/**
 * Shows that were deleted long enough ago go, with their films. Media stay: other shows may be made
 * of them.
 */
async function clearAway({ shows, folder }: Studio): Promise<void> {
  try {
    for (const id of await shows.purgeDeleted(new Date())) {
      await rm(path.join(folder.exports, id), { recursive: true, force: true });
    }
  } catch (error) {
    console.error("Old deleted shows could not be cleared away:", error);
  }
}

/**
 * Opens the data folder and serves it: the studio on one port, client pages on another. Port 0
 * takes any free port. Throws `port-taken` where another program has a port.
 */
export async function startServer(settings: Settings): Promise<RunningServer> {
  const studio = await openStudio(settings.dataFolder, { isServer: true });
  const { tell } = studio.wire;
  let clientAddress = settings.clientAddress ?? "";
  const outside = settings.services === null ? null : outsideServices(settings.services);
  const { stores, queue, planner } = studio;
  const accounts = new OutsideAccounts(stores.preferences, outside);
  const deliveries = new DeliveryQueue({ exports: queue, planner, deliveries: stores.deliveries, accounts });
  deliveries.on("change", (delivery) => tell({ kind: "delivery", delivery }));
  const { clientPages, visits, payments, identity } = openClientPages(studio, {
    service: settings.services === null ? null : new PaymentClient(settings.services),
    address: () => clientAddress,
    onChange: (showId) => tell({ kind: "client-page", showId }),
  });
  const hostNames = new Set(["localhost", "127.0.0.1", "[::1]", settings.host]);
  const app = createApp({ ...studio, clientPages, identity, accounts, deliveries, hostNames, version: VERSION });
  const server = createServer(TIMES, app);
  const clientServer = createServer(
    TIMES,
    createClientApp(visits, () => clientAddress, studio.folder),
  );
  try {
    await listen(server, settings.port, settings.host, "--port");
    await listen(clientServer, settings.clientPort, settings.clientHost, "--client-port");
  } catch (error) {
    server.close();
    await studio.close();
    throw error;
  }
  clientAddress ||= addressOf(clientServer, settings.clientHost);
  await studio.lock.setAddress(addressOf(server, settings.host));
  await studio.queue.start();
  await studio.proxies.start();
  await deliveries.start();
  await clearAway(studio);
  const clearing = setInterval(() => void clearAway(studio), CLEAR_AWAY_MS);
  const watch = outside === null ? null : new OutsideWatch(studio.wire, accounts, payments);
  return {
    address: addressOf(server, settings.host),
    clientAddress,
    studio,
    async close() {
      clearInterval(clearing);
      watch?.close();
      for (const one of [server, clientServer]) {
        one.closeAllConnections();
        await new Promise((resolve) => one.close(resolve));
      }
      await deliveries.close();
      await studio.close();
    },
  };
}

const outsideServices = (address: string): OutsideServices => ({
  address,
  video: new VideoSiteClient(address),
  disc: new DiscWriterClient(address),
});

const PORT_TROUBLE: Readonly<Record<string, string>> = {
  EADDRINUSE: "is taken by another program",
  EACCES: "may not be used by this user",
  EADDRNOTAVAIL: "cannot be used: this machine has no such address",
  ENOTFOUND: "cannot be used: this machine does not know that address",
};

async function listen(server: Server, port: number, host: string, option: string): Promise<void> {
  try {
    await new Promise<void>((resolve, reject) => {
      server.once("error", reject);
      server.listen(port, host, resolve);
    });
  } catch (cause) {
    const why = PORT_TROUBLE[(cause as { code?: string }).code ?? ""];
    if (!why) throw cause;
    throw machineError(
      "port-taken",
      { port, host, why, options: option === "--port" ? "--port (or --host)" : option },
      { cause },
    );
  }
}

function addressOf(server: Server, host: string): string {
  const { port } = server.address() as AddressInfo;
  return `http://${host.includes(":") ? `[${host}]` : host}:${port}`;
}

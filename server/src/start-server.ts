import { rm } from "node:fs/promises";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import { HummingTideError } from "@humming-tide/core";
import { FilmChecks } from "./check/film-checks.ts";
import { type DataFolder, openDataFolder } from "./data-folder.ts";
import { sayDiskFull } from "./failures.ts";
import { createApp } from "./http/app.ts";
import { ExportQueue } from "./jobs/export-queue.ts";
import { ProxyQueue } from "./jobs/proxy-queue.ts";
import { ContentStore } from "./media/content-store.ts";
import { Intake } from "./media/intake.ts";
import { MediaLibrary } from "./media/media-library.ts";
import type { Settings } from "./settings.ts";
import { openDatabase } from "./store/database.ts";
import { ShowStore } from "./store/show-store.ts";

const VERSION = "0.1.0";

/** A data folder with everything that works on it, with or without a web server in front. */
export interface Studio {
  readonly folder: DataFolder;
  readonly shows: ShowStore;
  readonly library: MediaLibrary;
  readonly intake: Intake;
  readonly queue: ExportQueue;
  readonly checks: FilmChecks;
  readonly proxies: ProxyQueue;
  close(): Promise<void>;
}

export async function openStudio(dataFolder: string): Promise<Studio> {
  try {
    const folder = await openDataFolder(dataFolder);
    const database = await openDatabase(folder.database);
    const library = new MediaLibrary(new ContentStore(folder));
    const queue = new ExportQueue(folder, library);
    const checks = new FilmChecks(folder, library);
    const proxies = new ProxyQueue(library);
    const close = async (): Promise<void> => {
      await Promise.all([queue.close(), checks.close(), proxies.close()]);
      await database.close();
    };
    const shows = new ShowStore(database);
    return { folder, shows, library, intake: new Intake(library), queue, checks, proxies, close };
  } catch (error) {
    const { code, message } = error as { code?: string; message: string };
    if (code === "EACCES" || code === "EROFS" || code === "ENOTDIR" || code === "EEXIST") {
      throw new HummingTideError(
        "data-folder",
        `The data folder "${dataFolder}" cannot be used: ${message}. Choose another with --data.`,
        { cause: error },
      );
    }
    throw sayDiskFull(error, `the data folder "${dataFolder}" cannot be opened`);
  }
}

export interface RunningServer {
  readonly address: string;
  readonly studio: Studio;
  close(): Promise<void>;
}

const CLEAR_AWAY_MS = 6 * 3_600_000;

/** Shows that were deleted long enough ago go, with their films. Media stay: other shows may be made of them. */
async function clearAway({ shows, folder }: Studio): Promise<void> {
  try {
    for (const id of await shows.purgeDeleted(new Date())) {
      await rm(path.join(folder.exports, id), { recursive: true, force: true });
    }
  } catch (error) {
    console.error("Old deleted shows could not be cleared away:", error);
  }
}

/** Opens the data folder and serves it. Port 0 takes any free port. Throws `port-taken` where another program has the port. */
export async function startServer(settings: Settings): Promise<RunningServer> {
  const studio = await openStudio(settings.dataFolder);
  const hostNames = new Set(["localhost", "127.0.0.1", "[::1]", settings.host]);
  const server = createServer(createApp({ ...studio, hostNames, version: VERSION }));
  try {
    await new Promise<void>((resolve, reject) => {
      server.once("error", reject);
      server.listen(settings.port, settings.host, resolve);
    });
  } catch (cause) {
    await studio.close();
    if ((cause as { code?: string }).code === "EADDRINUSE") {
      throw new HummingTideError(
        "port-taken",
        `Port ${settings.port} on ${settings.host} is taken by another program. Choose another with --port.`,
        { cause },
      );
    }
    throw cause;
  }
  await studio.queue.start();
  await studio.proxies.start();
  await clearAway(studio);
  const clearing = setInterval(() => void clearAway(studio), CLEAR_AWAY_MS);
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://${settings.host.includes(":") ? `[${settings.host}]` : settings.host}:${port}`,
    studio,
    async close() {
      clearInterval(clearing);
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await studio.close();
    },
  };
}

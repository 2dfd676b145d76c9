import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { HummingTideError } from "@humming-tide/core";
import { type DataFolder, openDataFolder } from "./data-folder.ts";
import { sayDiskFull } from "./failures.ts";
import { createApp } from "./http/app.ts";
import { ExportQueue } from "./jobs/export-queue.ts";
import { ContentStore } from "./media/content-store.ts";
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
  readonly queue: ExportQueue;
  close(): Promise<void>;
}

export async function openStudio(dataFolder: string): Promise<Studio> {
  try {
    const folder = await openDataFolder(dataFolder);
    const database = await openDatabase(folder.database);
    const library = new MediaLibrary(new ContentStore(folder));
    const queue = new ExportQueue(folder, library);
    const close = async (): Promise<void> => {
      await queue.close();
      await database.close();
    };
    return { folder, shows: new ShowStore(database), library, queue, close };
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
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://${settings.host.includes(":") ? `[${settings.host}]` : settings.host}:${port}`,
    studio,
    async close() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await studio.close();
    },
  };
}

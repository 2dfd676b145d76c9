import { HummingTideError } from "@humming-tide/core";
import { findFfmpeg } from "./media/ffmpeg.ts";
import { readSettings } from "./settings.ts";
import { startServer } from "./start-server.ts";
import { asStorageError } from "./storage-errors.ts";

/** Serves a data folder until it is told to stop (Ctrl-C). */
async function main(): Promise<void> {
  // Whoever started the server may stop reading what it prints; that is no reason to stop serving.
  for (const stream of [process.stdout, process.stderr]) stream.on("error", () => undefined);
  const settings = readSettings(process.argv.slice(2), process.env);
  const server = await startServer(settings);
  await findFfmpeg().catch((error: Error) => console.warn(error.message));
  console.log(`Humming Tide is ready: ${server.address}`);
  console.log(`Client pages: ${server.clientAddress}`);
  console.log(`Data folder: ${settings.dataFolder}   (stop with Ctrl-C)`);
  const stop = (): void => {
    void server.close().then(() => process.exit(0));
  };
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
}

main().catch((error: unknown) => {
  const known = asStorageError(error, "the program cannot start");
  console.error(known instanceof HummingTideError ? known.message : known);
  process.exitCode = 1;
});

import path from "node:path";
import { createApp } from "../http/app.ts";
import { openStudio, type Studio } from "../start-server.ts";
import { temporaryFolder } from "./index.ts";
import { outsideOf } from "./outside-of.ts";

/** A studio in a folder of its own, and its HTTP interface, to be asked without a port. */
export interface TestApp {
  readonly app: ReturnType<typeof createApp>;
  readonly studio: Studio;
  /** For files of the test, beside the studio's data. */
  readonly folder: string;
  /** Closes the studio and removes the folder. */
  close(): Promise<void>;
}

export async function openTestApp(): Promise<TestApp> {
  const { folder, remove } = await temporaryFolder();
  const studio = await openStudio(path.join(folder, "data"));
  const hostNames = new Set(["localhost", "127.0.0.1"]);
  return {
    app: createApp({ ...studio, ...outsideOf(studio), hostNames, version: "test" }),
    studio,
    folder,
    async close() {
      await studio.close();
      await remove();
    },
  };
}

import { openStudio, readSettings, type Studio } from "@humming-tide/server";

/**
 * Opens the data folder that is named (or the usual one), works on it and closes it whatever
 * happens.
 */
export async function inStudio<T>(data: string | undefined, work: (studio: Studio) => Promise<T>): Promise<T> {
  const { dataFolder } = readSettings(data === undefined ? [] : ["--data", data], process.env);
  const studio = await openStudio(dataFolder);
  try {
    return await work(studio);
  } finally {
    await studio.close();
  }
}

/** A signal that ends with Ctrl-C while `work` goes on. */
export async function untilStopped<T>(work: (signal: AbortSignal) => Promise<T>): Promise<T> {
  const stopping = new AbortController();
  const stop = (): void => stopping.abort();
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
  try {
    return await work(stopping.signal);
  } finally {
    process.off("SIGINT", stop);
    process.off("SIGTERM", stop);
  }
}

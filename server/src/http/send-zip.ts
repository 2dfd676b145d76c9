import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Response } from "express";

/** Sends a zip as a download, as it is made. A receiver that goes away ends it quietly. */
export async function sendZip(response: Response, name: string, content: Readable): Promise<void> {
  response.attachment(name).type("application/zip");
  await pipeline(content, response).catch((error: unknown) => {
    // Nothing is left behind.
    if ((error as { code?: string }).code !== "ERR_STREAM_PREMATURE_CLOSE") throw error;
  });
}

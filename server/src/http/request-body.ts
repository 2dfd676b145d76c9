import type { IncomingMessage, ServerResponse } from "node:http";
import { PassThrough, type Readable } from "node:stream";
import type { HummingTideError } from "@humming-tide/core";
import { mediaError } from "../media/media-errors.ts";

/**
 * The body of a request as a stream of its own, which its reader may destroy. What the reader
 * leaves is read away: a request that is destroyed, or that keeps unread bytes, ends its
 * connection. The answer is lost with it, or the next request on the same connection. A sender that
 * goes away ends the stream with `ECONNRESET`.
 */
export function bodyOf(request: IncomingMessage): Readable {
  const body = new PassThrough();
  request.pipe(body);
  request.once("error", (error) => body.destroy(error));
  body.once("close", () => {
    request.unpipe(body);
    request.resume();
  });
  return body;
}

export const brokenOff = (): HummingTideError => mediaError("upload-broken-off");

/**
 * A signal that ends when whoever asked has gone before the answer: nobody waits for the work any
 * more.
 */
export function whileAskerWaits(response: ServerResponse): AbortSignal {
  const stopping = new AbortController();
  response.once("close", () => {
    if (!response.writableEnded) stopping.abort(brokenOff());
  });
  return stopping.signal;
}

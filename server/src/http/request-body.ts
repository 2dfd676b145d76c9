import type { IncomingMessage } from "node:http";
import { PassThrough, type Readable } from "node:stream";

/**
 * The body of a request as a stream of its own, which its reader may destroy. What the reader leaves is read away: a request that is
 * destroyed, or that keeps unread bytes, takes its connection with it, and with that the answer, or the next request that the sender
 * puts on the same connection. A sender that goes away ends the stream with `ECONNRESET`.
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

import type { LiveEvent } from "@humming-tide/contract";
import { Router } from "express";
import type { LiveWire } from "../live/live-wire.ts";

/** A stream that says nothing for long is taken for dead by proxies. */
const KEEP_ALIVE_MS = 20_000;
/** A browser that does not read so much is no longer listening. */
const MOST_WAITING_BYTES = 4 * 1024 ** 2;

/** The one stream of events. A browser opens it once, whatever number of tabs it has. */
export function liveRoutes(wire: LiveWire): Router {
  const router = Router();
  router.get("/events", (request, response) => {
    response.set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store", Connection: "keep-alive" });
    response.flushHeaders();
    const send = (event: LiveEvent): void => {
      if (response.writableLength > MOST_WAITING_BYTES) response.destroy();
      else response.write(`data: ${JSON.stringify(event)}\n\n`);
    };
    send({ kind: "connected" });
    const stop = wire.listen(send);
    const keepAlive = setInterval(() => response.write(": \n\n"), KEEP_ALIVE_MS);
    request.on("close", () => {
      stop();
      clearInterval(keepAlive);
    });
  });
  return router;
}

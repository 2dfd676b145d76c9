import type { IncomingMessage } from "node:http";
import type { RequestHandler } from "express";
import { requestError } from "./request-errors.ts";

/** A sender that sends nothing for so long has gone, whatever its connection says. */
const IDLE_MS = 30_000;

/**
 * Refuses addresses with a zero byte: neither a file nor a row of the database has one in its name,
 * and some of what reads names stops there.
 */
export const refuseZeroBytes: RequestHandler = (request, _response, next) => {
  if (/%00/.test(request.url)) throw requestError("not-found");
  next();
};

/**
 * Closes the connection of a request whose body stands still before its end: half-sent ones would
 * pile up.
 */
export const closeIdleBodies =
  (idleMs = IDLE_MS): RequestHandler =>
  (request, _response, next) => {
    if (hasBody(request)) {
      const { socket } = request;
      const close = (): void => void socket.destroy();
      socket.setTimeout(idleMs, close);
      // The work on what was sent may take long, and the connection's own times hold again after
      // it.
      request.once("end", () => {
        socket.setTimeout(0);
        socket.off("timeout", close);
      });
    }
    next();
  };

/** RFC 9112, 6.3: a request has a body where it says how long it is, or that it comes in chunks. */
const hasBody = ({ headers }: IncomingMessage): boolean =>
  headers["transfer-encoding"] !== undefined || Number(headers["content-length"] ?? 0) > 0;

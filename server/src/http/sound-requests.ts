import { HummingTideError } from "@humming-tide/core";
import type { RequestHandler } from "express";

/** A sender that sends nothing for so long has gone, whatever its connection says. */
const IDLE_MS = 30_000;

/** Refuses addresses with a zero byte: neither a file nor a row of the database has one in its name, and some of what reads names stops there. */
export const refuseZeroBytes: RequestHandler = (request, _response, next) => {
  if (/%00/.test(request.url)) throw new HummingTideError("not-found", "There is nothing at this address.");
  next();
};

/** Closes the connection of a request whose body stands still before its end: half-sent ones would pile up. */
export const closeIdleBodies =
  (idleMs = IDLE_MS): RequestHandler =>
  (request, _response, next) => {
    if (!request.complete) {
      const { socket } = request;
      const close = (): void => {
        if (!request.complete) socket.destroy();
      };
      socket.setTimeout(idleMs, close);
      const rest = (): void => {
        socket.setTimeout(0);
        socket.off("timeout", close);
      };
      request.once("end", rest);
      request.once("close", rest);
    }
    next();
  };

import type { RequestHandler } from "express";

/** A sender that sends nothing for so long has gone, whatever its connection says. */
const IDLE_MS = 30_000;

/** Closes the connection of a request whose body stands still before its end: half-sent ones would pile up. */
export const closeIdleBodies: RequestHandler = (request, _response, next) => {
  if (!request.complete) {
    const { socket } = request;
    const close = (): void => {
      if (!request.complete) socket.destroy();
    };
    socket.setTimeout(IDLE_MS, close);
    const rest = (): void => {
      socket.setTimeout(0);
      socket.off("timeout", close);
    };
    request.once("end", rest);
    request.once("close", rest);
  }
  next();
};

import type { IncomingMessage } from "node:http";
import express from "express";
import { parseJson } from "../documents/read-document.ts";
import { requestError } from "./request-errors.ts";

/** Enough for every request but those that bring lists of files or whole shows. */
const LIMIT_BYTES = 100 * 1024;

/** As the parsers of bodies that come with the web framework. */
type BodyHandler = ReturnType<typeof express.raw>;

/**
 * JSON in the body, looked at for its depth before it is parsed: at most a few megabytes, so that
 * parsing takes milliseconds.
 */
export function jsonBody(limitBytes = LIMIT_BYTES): BodyHandler {
  const readRaw = rawJsonBody(limitBytes);
  return (request, response, next) => {
    readRaw(request, response, (error?: unknown) => {
      try {
        if (error) {
          next(error);
          return;
        }
        const holder: WithBody = request;
        holder.body = parseJson(rawBody(holder), limitBytes);
        next();
      } catch (failure) {
        next(failure);
      }
    });
  };
}

/** The body as it came, for a background thread to parse. */
export const rawJsonBody = (limitBytes: number): BodyHandler =>
  express.raw({ type: "application/json", limit: limitBytes });

type WithBody = IncomingMessage & { body?: unknown };

/** Throws `body-missing`. */
export function rawBody({ body }: WithBody): Uint8Array {
  if (body instanceof Uint8Array) return body;
  throw requestError("body-missing");
}

import type { ApiError } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { ErrorRequestHandler } from "express";
import { ZodError } from "zod";
import { asStorageError } from "../storage-errors.ts";

const STATUS: Readonly<Record<string, number>> = {
  "show-unknown": 404,
  "export-unknown": 404,
  "media-unknown": 404,
  "copy-in-making": 503,
  "output-unknown": 404,
  "song-missing": 404,
  "revision-unknown": 404,
  "template-unknown": 404,
  "intake-unknown": 404,
  "show-deleted": 410,
  "not-found": 404,
  "show-changed": 409,
  "disk-full": 507,
  "disk-short": 507,
  "folder-read-only": 507,
  "folder-gone": 503,
  "database-damaged": 500,
  "ffmpeg-failed": 500,
  "export-failed": 500,
  "time-limit": 422,
  "show-damaged": 422,
  "show-newer": 422,
  "show-readable": 409,
  "no-readable-revision": 404,
  "json-too-large": 413,
  "ffmpeg-missing": 503,
  "origin-refused": 403,
  "file-too-large": 413,
  "page-unknown": 404,
  "page-closed": 410,
  "pin-wanted": 401,
  "session-ended": 401,
  "pin-wrong": 403,
  "pin-locked": 429,
  "payment-wanted": 402,
  "no-downloads": 403,
  "comments-closed": 403,
  "comment-unknown": 404,
  "version-unknown": 404,
  "version-replaced": 409,
  "too-many-comments": 429,
  "already-paid": 409,
  "payment-ended": 409,
  "payment-unavailable": 503,
  "film-not-ready": 503,
  "no-client-page": 404,
  "delivery-unknown": 404,
  "no-services": 503,
  "sign-in-refused": 403,
  "signed-out": 403,
  "service-unreachable": 502,
  "service-refused": 502,
};

/**
 * Every failure leaves the server as { code, message }: what happened and what to do. Bugs of ours
 * do not show their insides; they, and everything else that is the server's fault, are logged.
 */
export const answerErrors: ErrorRequestHandler = (error: unknown, request, response, next) => {
  if (response.headersSent) {
    next(error);
    return;
  }
  const { status, body } = describe(asStorageError(error, "what you asked for could not be done"));
  if (status >= 500) console.error(`${request.method} ${request.path}:`, error);
  response.status(status).json(body);
};

function describe(error: unknown): { status: number; body: ApiError } {
  if (error instanceof HummingTideError) {
    const status = Object.hasOwn(STATUS, error.code) ? STATUS[error.code]! : 400;
    return { status, body: { code: error.code, message: error.message } };
  }
  if (error instanceof ZodError) {
    const issue = error.issues[0]!;
    return {
      status: 400,
      body: {
        code: "request-invalid",
        message: `The request is not valid: ${issue.path.join(".") || "body"}: ${issue.message}.`,
      },
    };
  }
  const status = Number((error as { status?: unknown }).status);
  if (status >= 400 && status < 500)
    return { status, body: { code: "request-invalid", message: (error as Error).message } };
  return {
    status: 500,
    body: {
      code: "internal",
      message:
        "The program made a mistake. What was saved before is kept; whether this last step was saved " +
        "is not known. Load the page again to see.",
    },
  };
}

import type { ApiError } from "@humming-tide/contract";
import { type ErrorMeaning, HummingTideError } from "@humming-tide/core";
import { itemAt } from "@humming-tide/core/presence";
import type { ErrorRequestHandler } from "express";
import { ZodError } from "zod";
import { asStorageError } from "../storage-errors.ts";

/**
 * Every failure leaves the server as { code, message }: what happened and what to do. Bugs of ours
 * do not show their insides; they, and everything else that is the server's fault, are logged.
 */
export const answerErrors: ErrorRequestHandler = (error: unknown, request, response, next) => {
  if (response.headersSent) {
    next(error);
    return;
  }
  const { status, log, body } = answerFor(asStorageError(error, "what you asked for could not be done"));
  const asked = `${request.method} ${request.path}`;
  if (log === "error") console.error(`${asked}:`, error);
  if (log === "line") console.warn(`${asked}: ${body.message}`);
  response.status(status).json(body);
};

function answerFor(error: unknown): ErrorMeaning & { readonly body: ApiError } {
  if (error instanceof HummingTideError)
    return { ...error.meaning, body: { code: error.code, values: error.values, message: error.message } };
  if (error instanceof ZodError) {
    const issue = itemAt(error.issues, 0);
    return {
      status: 400,
      log: "nothing",
      body: {
        code: "request-invalid",
        message: `The request is not valid: ${issue.path.join(".") || "body"}: ${issue.message}.`,
      },
    };
  }
  const status = Number((error as { status?: unknown }).status);
  if (status >= 400 && status < 500)
    return { status, log: "nothing", body: { code: "request-invalid", message: (error as Error).message } };
  return {
    status: 500,
    log: "error",
    body: {
      code: "internal",
      message:
        "The program made a mistake. What was saved before is kept; whether this last step was saved " +
        "is not known. Load the page again to see.",
    },
  };
}

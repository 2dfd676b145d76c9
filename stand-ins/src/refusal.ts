import type { ErrorRequestHandler } from "express";
import { ZodError } from "zod";

/** A service says no: a status of HTTP and words for people. */
export class Refusal extends Error {
  readonly status: number;

  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}

export const answerRefusals: ErrorRequestHandler = (error: unknown, _request, response, next) => {
  if (response.headersSent) {
    next(error);
    return;
  }
  if (error instanceof Refusal) response.status(error.status).json({ message: error.message });
  else if (error instanceof ZodError) {
    const [issue] = error.issues;
    response.status(422).json({ message: `${issue?.path.join(".") ?? "request"}: ${issue?.message ?? "not valid"}` });
  } else {
    const status = Number((error as { status?: unknown }).status);
    response.status(status >= 400 && status < 500 ? status : 500).json({ message: (error as Error).message });
  }
};

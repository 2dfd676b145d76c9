import { ERROR_CODES, type ErrorCode, type ErrorMeaning } from "./error-codes.ts";

/**
 * An error that a person can act on: `code` is for programs and never changes, the message says the
 * rule, the value, the place and the likely cause. Everything else that is thrown is a bug of ours.
 */
export class HummingTideError extends Error {
  override readonly name = "HummingTideError";
  readonly code: ErrorCode;

  constructor(code: ErrorCode, message: string, options?: { cause?: unknown }) {
    super(message, options);
    this.code = code;
  }

  /** What it means for whoever asked. */
  get meaning(): ErrorMeaning {
    return ERROR_CODES[this.code];
  }
}

import type { ErrorMeaning } from "./error-meaning.ts";

/** The facts of one case, as they go to other programs. */
export type ErrorValues = Readonly<Record<string, string | number | boolean | null | readonly string[]>>;

/** An error as it goes from thread to thread, where its class is lost. */
export interface ErrorData {
  readonly code: string;
  readonly values: ErrorValues;
  readonly message: string;
  readonly meaning: ErrorMeaning;
}

/**
 * An error that a person can act on: `code` and `values` are for programs and never change, the
 * message says the rule, the value, the place and the likely cause. Catalogues make it (see
 * errorsOf). Everything else that is thrown is a bug of ours.
 */
export class HummingTideError extends Error {
  override readonly name = "HummingTideError";
  readonly code: string;
  readonly values: ErrorValues;
  readonly meaning: ErrorMeaning;

  constructor({ code, values, message, meaning }: ErrorData, options?: ErrorOptions) {
    super(message, options);
    this.code = code;
    this.values = values;
    this.meaning = meaning;
  }

  /** All of it but the cause: `new HummingTideError(error.data)` is the same error again. */
  get data(): ErrorData {
    return { code: this.code, values: this.values, message: this.message, meaning: this.meaning };
  }
}

/**
 * An error that a person can act on: `code` is for programs and never changes, the message says the rule, the value,
 * the place and the likely cause. Everything else that is thrown is a bug of ours.
 */
export class HummingTideError extends Error {
  override readonly name = "HummingTideError";
  readonly code: string;

  constructor(code: string, message: string, options?: { cause?: unknown }) {
    super(message, options);
    this.code = code;
  }
}

/** Makes the compiler prove that a switch covers every case. */
export function assertNever(value: never): never {
  throw new Error(`Unexpected case: ${JSON.stringify(value)}`);
}

export { ERROR_CODES, type ErrorCode, type ErrorMeaning } from "./error-codes.ts";
export { HummingTideError } from "./humming-tide-error.ts";

/** Makes the compiler prove that a switch covers every case. */
export function assertNever(value: never): never {
  throw new Error(`Unexpected case: ${JSON.stringify(value)}`);
}

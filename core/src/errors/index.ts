export { type ErrorCatalogue, type ErrorEntry, type ErrorMaker, errorsOf } from "./error-catalogue.ts";
export {
  BAD,
  CONFLICT,
  type ErrorMeaning,
  FORBIDDEN,
  GONE,
  NO_ROOM,
  NOT_NOW,
  NOT_THERE,
  NOT_YET,
  OURS,
  OUTSIDE,
  PAYMENT_WANTED,
  TOO_LARGE,
  TOO_MANY,
  UNAUTHORISED,
  UNUSABLE,
} from "./error-meaning.ts";
export { type ErrorData, type ErrorValues, HummingTideError } from "./humming-tide-error.ts";

/** Makes the compiler prove that a switch covers every case. */
export function assertNever(value: never): never {
  throw new Error(`Unexpected case: ${JSON.stringify(value)}`);
}

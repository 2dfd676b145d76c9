export { assertNever, ERROR_CODES, type ErrorCode, type ErrorMeaning, HummingTideError } from "./errors/index.ts";

export { assertNever, type ErrorData, type ErrorMeaning, HummingTideError } from "./errors/index.ts";

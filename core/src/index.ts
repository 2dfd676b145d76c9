export { assertNever, HummingTideError } from "./errors/index.ts";

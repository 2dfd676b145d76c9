export { assertNever, HummingTideError } from "./failure/index.ts";

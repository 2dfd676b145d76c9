/**
 * What an error means for those who answer requests: the status of HTTP (RFC 9110), and how it is
 * logged: not at all, as a line, or with all that is known. Commands only tell the message.
 */
export interface ErrorMeaning {
  readonly status: number;
  readonly log: "nothing" | "line" | "error";
}

/** The request cannot be meant so, or the file is not what it should be. */
export const BAD: ErrorMeaning = { status: 400, log: "nothing" };
export const UNAUTHORISED: ErrorMeaning = { status: 401, log: "nothing" };
export const PAYMENT_WANTED: ErrorMeaning = { status: 402, log: "nothing" };
export const FORBIDDEN: ErrorMeaning = { status: 403, log: "nothing" };
export const NOT_THERE: ErrorMeaning = { status: 404, log: "nothing" };
/** It does not go together with what is there. */
export const CONFLICT: ErrorMeaning = { status: 409, log: "nothing" };
export const GONE: ErrorMeaning = { status: 410, log: "nothing" };
export const TOO_LARGE: ErrorMeaning = { status: 413, log: "nothing" };
/** It can be read, but not worked with. */
export const UNUSABLE: ErrorMeaning = { status: 422, log: "nothing" };
export const TOO_MANY: ErrorMeaning = { status: 429, log: "nothing" };
/** Something broke here. */
export const OURS: ErrorMeaning = { status: 500, log: "error" };
/** A service outside did not do its part. */
export const OUTSIDE: ErrorMeaning = { status: 502, log: "error" };
/** Not now: something has to be waited for, or put right on this machine. */
export const NOT_NOW: ErrorMeaning = { status: 503, log: "error" };
/** The same, but nothing is wrong. */
export const NOT_YET: ErrorMeaning = { status: 503, log: "line" };
export const NO_ROOM: ErrorMeaning = { status: 507, log: "error" };

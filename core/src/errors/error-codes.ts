/**
 * What a code means for those who answer requests: the status of HTTP (RFC 9110), and how it is
 * logged: not at all, as a line, or with all that is known. Commands only tell the message.
 */
export interface ErrorMeaning {
  readonly status: number;
  readonly log: "nothing" | "line" | "error";
}

/** The request cannot be meant so, or the file is not what it should be. */
const BAD: ErrorMeaning = { status: 400, log: "nothing" };
const UNAUTHORISED: ErrorMeaning = { status: 401, log: "nothing" };
const PAYMENT_WANTED: ErrorMeaning = { status: 402, log: "nothing" };
const FORBIDDEN: ErrorMeaning = { status: 403, log: "nothing" };
const NOT_THERE: ErrorMeaning = { status: 404, log: "nothing" };
/** It does not go together with what is there. */
const CONFLICT: ErrorMeaning = { status: 409, log: "nothing" };
const GONE: ErrorMeaning = { status: 410, log: "nothing" };
const TOO_LARGE: ErrorMeaning = { status: 413, log: "nothing" };
/** It can be read, but not worked with. */
const UNUSABLE: ErrorMeaning = { status: 422, log: "nothing" };
const TOO_MANY: ErrorMeaning = { status: 429, log: "nothing" };
/** Something broke here. */
const OURS: ErrorMeaning = { status: 500, log: "error" };
/** A service outside did not do its part. */
const OUTSIDE: ErrorMeaning = { status: 502, log: "error" };
/** Not now: something has to be waited for, or put right on this machine. */
const NOT_NOW: ErrorMeaning = { status: 503, log: "error" };
/** The same, but nothing is wrong. */
const NOT_YET: ErrorMeaning = { status: 503, log: "line" };
const NO_ROOM: ErrorMeaning = { status: 507, log: "error" };

/** Every code that an error can have. The compiler refuses others. */
export const ERROR_CODES = {
  // Shows
  "show-unknown": NOT_THERE,
  "show-deleted": GONE,
  "show-changed": CONFLICT,
  "show-damaged": UNUSABLE,
  "show-newer": UNUSABLE,
  "show-readable": CONFLICT,
  "show-ambiguous": BAD,
  "show-name": BAD,
  "revision-unknown": NOT_THERE,
  "revision-missing": BAD,
  "no-readable-revision": NOT_THERE,
  "template-unknown": NOT_THERE,
  "document-too-new": UNUSABLE,
  "delta-of-another": BAD,
  "json-invalid": BAD,
  "json-too-deep": BAD,
  "json-too-large": TOO_LARGE,
  "body-missing": BAD,
  "too-many-markers": BAD,

  // Fit, music and time
  "no-slides": BAD,
  "no-song": BAD,
  "no-length": BAD,
  "no-film": BAD,
  "no-chapters": BAD,
  "frame-rate": BAD,
  "too-few-taps": BAD,
  "not-rearrangeable": BAD,
  "beat-network-damaged": OURS,
  "missing-picture": BAD,
  "bad-font": BAD,
  "time-limit": UNUSABLE,

  // Files that come in
  "file-empty": BAD,
  "file-unknown": BAD,
  "file-too-large": TOO_LARGE,
  "not-a-file": BAD,
  "not-a-picture": BAD,
  "not-a-song": BAD,
  "sum-wrong": BAD,
  "upload-broken-off": BAD,
  "intake-unknown": NOT_THERE,
  "media-unknown": NOT_THERE,
  "media-missing": BAD,
  "song-missing": NOT_THERE,
  "song-damaged": BAD,
  "song-too-long": BAD,
  "song-too-short": BAD,
  "sound-unusual": BAD,
  "no-sound": BAD,
  "voice-damaged": BAD,
  "voice-too-short": BAD,
  "clip-unknown": NOT_THERE,
  "clip-damaged": BAD,
  "clip-too-large": BAD,
  "copy-in-making": NOT_YET,
  "picture-damaged": BAD,
  "picture-format": BAD,
  "picture-too-large": BAD,
  "package-damaged": BAD,
  "package-hostile": BAD,
  "package-too-new": BAD,
  "marks-unreadable": BAD,
  "timeline-unreadable": BAD,
  "edit-list-long": BAD,
  "edit-list-rate": BAD,
  "slide-list-header": BAD,
  "order-locked": CONFLICT,
  "film-report": BAD,
  "film-unreadable": BAD,

  // Exports and deliveries
  "export-unknown": NOT_THERE,
  "export-failed": OURS,
  "output-unknown": NOT_THERE,
  "size-odd": BAD,
  "size-too-small": BAD,
  "encoder-missing": NOT_NOW,
  "ffmpeg-missing": NOT_NOW,
  "ffmpeg-failed": OURS,
  "player-not-built": NOT_NOW,
  "check-failed": OURS,
  "not-in-planes": OURS,
  "films-folder": BAD,
  "delivery-unknown": NOT_THERE,
  "no-services": NOT_YET,
  "sign-in-refused": FORBIDDEN,
  "signed-out": FORBIDDEN,
  "service-unreachable": OUTSIDE,
  "service-refused": OUTSIDE,
  "video-failed": OUTSIDE,
  "disc-wanted": CONFLICT,
  "disc-too-small": CONFLICT,
  "disc-spoilt": CONFLICT,
  "burn-failed": OUTSIDE,
  cancelled: CONFLICT,
  closed: NOT_YET,

  // Client pages
  "page-unknown": NOT_THERE,
  "page-closed": GONE,
  "no-client-page": NOT_THERE,
  "no-video-output": BAD,
  "pin-wanted": UNAUTHORISED,
  "pin-wrong": FORBIDDEN,
  "pin-locked": TOO_MANY,
  "session-ended": UNAUTHORISED,
  "film-not-ready": NOT_YET,
  "no-downloads": FORBIDDEN,
  "comments-closed": FORBIDDEN,
  "comment-unknown": NOT_THERE,
  "too-many-comments": TOO_MANY,
  "version-unknown": NOT_THERE,
  "version-replaced": CONFLICT,
  "nothing-to-pay": BAD,
  "payment-wanted": PAYMENT_WANTED,
  "already-paid": CONFLICT,
  "payment-ended": CONFLICT,
  "payment-unavailable": NOT_YET,

  // The data folder and the machine
  "data-folder": NOT_NOW,
  "folder-in-use": CONFLICT,
  "folder-gone": NOT_NOW,
  "folder-read-only": NO_ROOM,
  "database-damaged": OURS,
  "database-empty": OURS,
  "database-newer": OURS,
  "disk-full": NO_ROOM,
  "disk-short": NO_ROOM,
  "port-taken": CONFLICT,
  settings: BAD,

  // Requests and commands
  "not-found": NOT_THERE,
  "origin-refused": FORBIDDEN,
  "place-taken": CONFLICT,
  "cannot-read": BAD,
  "no-analysis": BAD,
  "no-json": BAD,
  "no-show": BAD,
  "music-changed": CONFLICT,
  usage: BAD,
} as const satisfies Readonly<Record<string, ErrorMeaning>>;

export type ErrorCode = keyof typeof ERROR_CODES;

import {
  BAD,
  CONFLICT,
  errorsOf,
  FORBIDDEN,
  GONE,
  NOT_THERE,
  NOT_YET,
  PAYMENT_WANTED,
  TOO_MANY,
  UNAUTHORISED,
} from "@humming-tide/core/errors";

/** What a client reads, and what the studio reads about its client pages. */
export const clientPageError = errorsOf({
  "page-unknown": {
    meaning: NOT_THERE,
    text: () => "There is no film at this address (any more).",
  },
  "page-closed": {
    meaning: GONE,
    text: () => "This page is closed. Ask whoever gave you its address.",
  },
  "no-client-page": {
    meaning: NOT_THERE,
    text: () => "This show has no client page yet. Open one first.",
  },
  "no-video-output": {
    meaning: BAD,
    text: () =>
      "A client page shows a film, and this show has no output that is an MP4 or a WebM. Add one under Films.",
  },
  "logo-damaged": {
    meaning: BAD,
    text: () => "This file cannot be read as a picture. A PNG with a clear ground is best for a logo.",
  },
  "pin-wanted": {
    meaning: UNAUTHORISED,
    text: () => "This film asks for a PIN.",
  },
  "pin-wrong": {
    meaning: FORBIDDEN,
    text: ({ waitSeconds }: { waitSeconds: number }) =>
      waitSeconds > 0
        ? `This is not the PIN. The next one can be tried in ${waitSeconds} seconds.`
        : "This is not the PIN.",
  },
  "pin-locked": {
    meaning: TOO_MANY,
    text: ({ waitSeconds }: { waitSeconds: number }) =>
      `After several wrong PINs this page waits for ${waitSeconds} more seconds.`,
  },
  "session-ended": {
    meaning: UNAUTHORISED,
    text: () => "You have been away for long. Load the page again.",
  },
  "film-not-ready": {
    meaning: NOT_YET,
    text: () => "The film is still being made. This page looks again by itself.",
  },
  "cover-none": {
    meaning: NOT_THERE,
    text: () => "This film has no picture that stands for it.",
  },
  "film-gone": {
    meaning: NOT_THERE,
    text: () => "The film is not there any more. Ask whoever gave you this address.",
  },
  "page-not-built": {
    meaning: NOT_THERE,
    text: () => "This page is missing from the program (npm run build).",
  },
  "no-downloads": {
    meaning: FORBIDDEN,
    text: () => "This film can be watched here, but not downloaded.",
  },
  "comments-closed": {
    meaning: FORBIDDEN,
    text: () => "No comments are taken on this page at the moment.",
  },
  "comment-unknown": {
    meaning: NOT_THERE,
    text: () => "This comment is not there any more. Load the page again.",
  },
  "too-many-comments": {
    meaning: TOO_MANY,
    text: () => "Many comments came in a short time. Please try again later.",
  },
  "version-unknown": {
    meaning: NOT_THERE,
    text: () => "This version of the film is not there any more.",
  },
  "version-replaced": {
    meaning: CONFLICT,
    text: () => "There is a newer version of this film. Load the page again.",
  },
  "nothing-to-pay": {
    meaning: BAD,
    text: () => "This film is downloaded for free.",
  },
  "payment-wanted": {
    meaning: PAYMENT_WANTED,
    text: () => "This film can be downloaded when it is paid for.",
  },
  "already-paid": {
    meaning: CONFLICT,
    text: () => "This film is paid for already. Load the page again.",
  },
  "payment-ended": {
    meaning: CONFLICT,
    text: () => "This payment has come to its end. Begin another one.",
  },
  "payment-unavailable": {
    meaning: NOT_YET,
    text: () => "Nothing can be paid here at the moment. Please try later.",
  },
});

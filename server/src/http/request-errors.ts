import { BAD, errorsOf, FORBIDDEN, NOT_THERE } from "@humming-tide/core/errors";

/** Requests that cannot be answered as they are. */
export const requestError = errorsOf({
  "not-found": {
    meaning: NOT_THERE,
    text: () => "There is nothing at this address.",
  },
  "not-measured": {
    meaning: NOT_THERE,
    text: () => "This export has not been measured.",
  },
  "film-unfinished": {
    meaning: NOT_THERE,
    text: () => "This export has no finished film. Export again.",
  },
  "output-unknown": {
    meaning: NOT_THERE,
    text: ({ outputId }: { outputId: string }) => `The show has no output "${outputId}" (any more). Choose again.`,
  },
  "body-missing": {
    meaning: BAD,
    text: () => "This request needs a body of JSON (Content-Type: application/json).",
  },
  "revision-missing": {
    meaning: BAD,
    text: () => "A save names the revision it was made from in If-Match.",
  },
  "not-a-picture": {
    meaning: BAD,
    text: ({ fileName }: { fileName: string }) =>
      `"${fileName}" is no picture. Choose a PNG, best with a clear ground.`,
  },
  "no-sound": {
    meaning: BAD,
    text: ({ fileName }: { fileName: string }) =>
      `"${fileName}" has no sound. Choose a recording, or a clip with sound.`,
  },
  "host-refused": {
    meaning: FORBIDDEN,
    text: ({ host }: { host: string }) => `This server does not answer to the name "${host}".`,
  },
  "origin-refused": {
    meaning: FORBIDDEN,
    text: ({ origin }: { origin: string }) => `Requests from ${origin} are not accepted.`,
  },
});

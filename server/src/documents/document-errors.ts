import { BAD, errorsOf, TOO_LARGE, UNUSABLE } from "@humming-tide/core/errors";

/** Texts of shows that cannot be read, and shows that take too long. */
export const documentError = errorsOf({
  "json-too-large": {
    meaning: TOO_LARGE,
    text: ({ bytes, mostBytes }: { bytes: number; mostBytes: number }) =>
      `The text has ${bytes} bytes; at most ${mostBytes} are read.`,
  },
  "json-too-deep": {
    meaning: BAD,
    text: ({ deepest }: { deepest: number }) => `The text nests more than ${deepest} levels deep. No show does.`,
  },
  "json-invalid": {
    meaning: BAD,
    text: () => "The text is not JSON. It may have been cut short.",
  },
  "show-newer": {
    meaning: UNUSABLE,
    text: ({ why }: { why: string }) => why,
  },
  "show-damaged": {
    meaning: UNUSABLE,
    text: ({ why }: { why: string }) =>
      `The saved text of this show cannot be read (${why}). An earlier revision may be whole; the shelf leads back ` +
      "to it.",
  },
  "time-limit": {
    meaning: UNUSABLE,
    text: ({ limitSeconds }: { limitSeconds: number }) =>
      `This show takes longer than ${limitSeconds} s to work out, so it was stopped. Nothing was changed. Make it ` +
      "smaller: fewer slides, songs or outputs.",
  },
});

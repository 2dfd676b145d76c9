import { BAD, errorsOf } from "../errors/index.ts";
import { counted } from "../language/index.ts";
import type { Seconds } from "../time/index.ts";

/** Why there is no film yet. */
export const fitError = errorsOf({
  "no-slides": {
    meaning: BAD,
    text: () => "A film needs at least one picture, and this show has none yet.",
  },
  "all-left-out": {
    meaning: BAD,
    text: ({ slides }: { slides: number }) =>
      `Of ${counted(slides, "picture")} in this show every one is left out. A film needs at least one that is kept.`,
  },
  "no-song": {
    meaning: BAD,
    text: () => "A film needs a song to lay its pictures on, and this show has none yet. Bring one in on Gather.",
  },
  "no-length": {
    meaning: BAD,
    text: ({ filmSeconds }: { filmSeconds: Seconds }) =>
      `A film needs a song with some length, but this one has ${filmSeconds} s.`,
  },
});

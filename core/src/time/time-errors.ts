import { BAD, errorsOf } from "../errors/index.ts";

export const timeError = errorsOf({
  "frame-rate": {
    meaning: BAD,
    text: ({ text, known }: { text: string; known: readonly string[] }) =>
      `A frame rate is ${known.join(", ")} or NUM/DEN between 1 and 240, but this is "${text}".`,
  },
});

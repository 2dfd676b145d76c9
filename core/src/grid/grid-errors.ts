import { BAD, errorsOf } from "../errors/index.ts";

export const gridError = errorsOf({
  "too-few-taps": {
    meaning: BAD,
    text: ({ taps, allTaps, fewest }: { taps: number; allTaps: number; fewest: number }) =>
      `A lag needs at least ${fewest} taps near a click, but there were ${taps} of ${allTaps}. ` +
      "Tap along with the click for a little longer.",
  },
});

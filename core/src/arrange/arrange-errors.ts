import { BAD, errorsOf } from "../errors/index.ts";
import type { Seconds } from "../time/index.ts";

type NotRearrangeable =
  | { readonly why: "too-few-bars"; readonly bars: number; readonly fewest: number }
  | { readonly why: "no-bars" }
  | { readonly why: "no-quiet-joins"; readonly seconds: Seconds; readonly reach: string };

export const arrangeError = errorsOf({
  "not-rearrangeable": {
    meaning: BAD,
    text: (values: NotRearrangeable) => {
      switch (values.why) {
        case "too-few-bars":
          return (
            `A song can be rearranged from ${values.fewest} bars on, but this one has ${values.bars}. ` +
            "Trim or fade it instead."
          );
        case "no-bars":
          return "A song can be rearranged where it has bars, but none were found in this one. Trim or fade it instead.";
        case "no-quiet-joins":
          return (
            `No joins that would go unheard bring this song to ${values.seconds.toFixed(1)} s within ` +
            `${values.reach}. Wish another length, or let it fade.`
          );
      }
    },
  },
});

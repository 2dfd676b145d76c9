import type { ProposedPart } from "@humming-tide/core/clip-analysis";

/** The part with a moment; an end that would leave the moment out is given up. */
export const withMoment = ({ inSeconds, outSeconds }: ProposedPart, momentSeconds: number): ProposedPart => ({
  inSeconds: momentSeconds < inSeconds ? 0 : inSeconds,
  outSeconds: outSeconds !== null && momentSeconds > outSeconds ? null : outSeconds,
  momentSeconds,
});

/** The part from a second on: to the clip's end where it ended before. */
export const withoutStart = ({ outSeconds, momentSeconds }: ProposedPart, inSeconds: number): ProposedPart => ({
  inSeconds,
  outSeconds: outSeconds !== null && outSeconds <= inSeconds ? null : outSeconds,
  momentSeconds: momentSeconds !== null && momentSeconds < inSeconds ? null : momentSeconds,
});

/** The part up to a second: from the clip's beginning where it began behind it. */
export const withoutEnd = ({ inSeconds, momentSeconds }: ProposedPart, outSeconds: number): ProposedPart => ({
  inSeconds: inSeconds >= outSeconds ? 0 : inSeconds,
  outSeconds,
  momentSeconds: momentSeconds !== null && momentSeconds > outSeconds ? null : momentSeconds,
});

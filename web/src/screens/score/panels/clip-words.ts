import type { ClipMoment, ProposedTrim, TrimReason } from "@humming-tide/core/clip-analysis";

/** A second of a clip, to a tenth: "7.9 s"; of a minute and more "1:07.9". */
export function secondsText(seconds: number): string {
  const tenths = Math.round(10 * seconds);
  const minutes = Math.floor(tenths / 600);
  const rest = (tenths % 600) / 10;
  return minutes === 0 ? `${rest.toFixed(1)} s` : `${minutes}:${rest.toFixed(1).padStart(4, "0")}`;
}

const MOMENTS: Readonly<Record<ClipMoment["kind"], string>> = {
  crowd: "A crowd is heard from",
  movement: "Most movement at",
  face: "A face is nearest at",
};

/** "Most movement at 3.2 s". */
export const momentText = ({ kind, seconds }: ClipMoment): string => `${MOMENTS[kind]} ${secondsText(seconds)}`;

const TRIMS: Readonly<Record<TrimReason, string>> = {
  shaky: "It shakes",
  still: "Hardly anything moves",
  dark: "It is dark",
};

/** "It shakes until 0.9 s: leave that out". */
export const trimText = ({ reason, seconds }: ProposedTrim, at: "start" | "end", durationSeconds: number): string =>
  at === "start"
    ? `${TRIMS[reason]} until ${secondsText(seconds)}: leave that out`
    : `${TRIMS[reason]} from ${secondsText(durationSeconds - seconds)}: leave that out`;

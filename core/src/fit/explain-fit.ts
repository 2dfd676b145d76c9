import type { Pace } from "../show/index.ts";
import { clockText } from "../time/index.ts";
import { type FitRequest, type FitResult, fitSlides } from "./fit-slides.ts";

export interface FitMessage {
  readonly kind: "agreement" | "left-out" | "repeated" | "no-beat" | "unmet-lock";
  /** One or two sentences: what is so, and what would change it. */
  readonly text: string;
  /** Paces that would suit the number of slides better, best first; each can be applied as it stands. */
  readonly waysOut: readonly { readonly text: string; readonly pace: Pace }[];
}

/** Says in words how slides and song agree, what was left out or repeated, and the ways out. */
export function explainFit(request: FitRequest, result: FitResult): FitMessage[] {
  const slides = request.slides.length;
  const length = clockText(request.endSeconds);
  const messages: FitMessage[] = [];
  const mean = request.endSeconds / result.slots.length;
  messages.push({
    kind: "agreement",
    text: `${countOf(result.slots.length, "slot")} over a song of ${length}: ${mean.toFixed(1)} s each on average.`,
    waysOut: [],
  });
  if (result.leftOut.length > 0) {
    messages.push({
      kind: "left-out",
      text: `${slides} pictures ask for more than the song's ${length}: ${result.leftOut.length} of them find no room, first those rated maybe, evenly over the show.`,
      waysOut: waysOut(request, result),
    });
  }
  if (result.repeats > 0) {
    messages.push({
      kind: "repeated",
      text: `${countOf(slides, "picture")} do not fill ${length} at this pace: ${countOf(result.repeats, "slot")} show a picture again. Add pictures, or choose a slower pace.`,
      waysOut: waysOut(request, result),
    });
  }
  if (!result.steady) {
    messages.push({
      kind: "no-beat",
      text: "No steady beat was found in this song, so the pictures are spread evenly over it.",
      waysOut: [],
    });
  }
  if (result.unmetLocks.length > 0) {
    messages.push({
      kind: "unmet-lock",
      text: `${countOf(result.unmetLocks.length, "lock")} could not be kept: no room is left for the slides between it and its neighbours. Free one of them, or choose another pace.`,
      waysOut: [],
    });
  }
  return messages;
}

/** Paces under which every picture is shown once, nearest to a whole film first. Each is tried for real. */
function waysOut(request: FitRequest, result: FitResult): FitMessage["waysOut"] {
  if (!result.steady) return [];
  const paces: Pace[] = [{ kind: "auto" }, { kind: "bar" }, ...[1, 2, 4, 6, 8, 12, 16].map(beatsPace)];
  const misfit = (fit: FitResult): number => fit.leftOut.length + fit.repeats;
  return paces
    .filter((pace) => JSON.stringify(pace) !== JSON.stringify(request.pace))
    .map((pace) => ({ pace, misfit: misfit(fitSlides({ ...request, pace })) }))
    .filter((way) => way.misfit < misfit(result))
    .sort((a, b) => a.misfit - b.misfit)
    .slice(0, 2)
    .map(({ pace, misfit: left }) => ({
      pace,
      text: `${paceText(pace)}${left === 0 ? ": every picture once" : `: ${left} left over or repeated`}`,
    }));
}

const beatsPace = (count: number): Pace => ({ kind: "beats", count });

function paceText(pace: Pace): string {
  switch (pace.kind) {
    case "auto":
      return "Best fit";
    case "bar":
      return "One picture a bar";
    case "beats":
      return pace.count === 1 ? "One picture a beat" : `One picture every ${pace.count} beats`;
  }
}

const countOf = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? "" : "s"}`;

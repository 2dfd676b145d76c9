import { BAD, errorsOf } from "../errors/index.ts";
import type { Frames } from "../time/index.ts";

/** Files that come from other programs, and what they cannot hold. */
export const interchangeError = errorsOf({
  "marks-unreadable": {
    meaning: BAD,
    text: ({ place, why }: { place: string; why: string }) => `${place}: ${why}`,
  },
  "edit-list-unreadable": {
    meaning: BAD,
    text: ({ line, why }: { line: number; why: string }) => `This edit list cannot be read at line ${line}: ${why}`,
  },
  "timeline-unreadable": {
    meaning: BAD,
    text: ({ place, why }: { place: string; why: string }) => `This timeline cannot be read at ${place}: ${why}`,
  },
  "edit-list-rate": {
    meaning: BAD,
    text: ({ frameRate }: { frameRate: string }) =>
      `An edit list (CMX 3600) counts up to 30 frames a second, and this film has ${frameRate}. ` +
      "Lay the show at 24, 25, 29.97 or 30, or take the OpenTimelineIO file, which holds any rate.",
  },
  "edit-list-long": {
    meaning: BAD,
    text: ({ events, most }: { events: number; most: number }) =>
      `An edit list (CMX 3600) numbers up to ${most} events, and this film has ${events}. ` +
      "The OpenTimelineIO file holds any number.",
  },
  "slide-list-empty": {
    meaning: BAD,
    text: () => "The list is empty: it has not even a header line.",
  },
  "slide-list-header": {
    meaning: BAD,
    text: ({ columns }: { columns: readonly string[] }) =>
      'The first line names the columns, and one of them is "file"; here they are: ' +
      `${columns.map((column) => `"${column}"`).join(", ")}.`,
  },
  "report-not-json": {
    meaning: BAD,
    text: ({ why }: { why: string }) => `The report is not JSON: ${why}`,
  },
  "not-a-report": {
    meaning: BAD,
    text: ({ place, why }: { place: string; why: string }) => `The report is not a film report: ${place}: ${why}.`,
  },
  "report-not-tiled": {
    meaning: BAD,
    text: (slot: { index: number; startFrame: Frames; endFrame: Frames; expectedFrame: Frames }) =>
      `Slots tile the film, but slot ${slot.index} runs from frame ${slot.startFrame} to ${slot.endFrame} and the ` +
      `one before it ends at ${slot.expectedFrame}.`,
  },
});

import { BAD, CONFLICT, errorsOf, NO_ROOM, NOT_THERE, NOT_YET, OURS } from "@humming-tide/core/errors";
import { gigabytes } from "../gigabytes.ts";

export const jobError = errorsOf({
  cancelled: {
    meaning: CONFLICT,
    text: () => "It was stopped.",
  },
  "export-failed": {
    meaning: OURS,
    text: ({ why }: { why: string }) => `The export failed: ${why}. The show is unharmed; export again.`,
  },
  "check-failed": {
    meaning: OURS,
    text: ({ why }: { why: string }) => `The check failed: ${why}. The show is unharmed; check again.`,
  },
  closed: {
    meaning: NOT_YET,
    text: () => "The server stops.",
  },
  "clip-unknown": {
    meaning: NOT_THERE,
    text: () => "The clip is not in the data folder. Bring it in again.",
  },
  "disk-short": {
    meaning: NO_ROOM,
    text: ({ neededBytes, freeBytes }: { neededBytes: number; freeBytes: number }) =>
      `The films need about ${gigabytes(neededBytes)} on the disk of the data folder while they are made, and ` +
      `${gigabytes(freeBytes)} are free. Make room, or choose smaller films.`,
  },
  "films-folder": {
    meaning: BAD,
    text: ({ folder, why }: { folder: string; why: string }) => `Films cannot be put into "${folder}": ${why}.`,
  },
});

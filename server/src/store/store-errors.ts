import { CONFLICT, errorsOf, GONE, NOT_THERE } from "@humming-tide/core/errors";

/** What is not in the database, or is there in another state than asked for. */
export const storeError = errorsOf({
  "show-unknown": {
    meaning: NOT_THERE,
    text: () => "There is no show at this address. It may have been made in another data folder.",
  },
  "show-deleted": {
    meaning: GONE,
    text: ({ day, keptDays }: { day: string; keptDays: number }) =>
      `This show was deleted on ${day}. It can be brought back on the shelf for ${keptDays} days.`,
  },
  "show-changed": {
    meaning: CONFLICT,
    text: ({ now, from }: { now: number; from: number }) =>
      `This show was changed elsewhere in the meantime (it is at revision ${now}, this edit was made on ${from}). ` +
      "Nothing was overwritten.",
  },
  "show-readable": {
    meaning: CONFLICT,
    text: () => "This show can be read as it is; open it from the shelf.",
  },
  "revision-unknown": {
    meaning: NOT_THERE,
    text: ({ revision }: { revision: number }) => `This show has no revision ${revision}.`,
  },
  "no-readable-revision": {
    meaning: NOT_THERE,
    text: () => "No revision of this show can be read. Save its raw document; whoever knows JSON may mend it.",
  },
  "variant-unknown": {
    meaning: NOT_THERE,
    text: () => "This variant is not there any more. The history of the show still has its film.",
  },
  "variants-full": {
    meaning: CONFLICT,
    text: ({ most }: { most: number }) =>
      `A show has ${most} variants at most. Remove one that you do not need; the history still has its film.`,
  },
  "template-unknown": {
    meaning: NOT_THERE,
    text: () => "This template is not there any more.",
  },
  "song-unknown": {
    meaning: NOT_THERE,
    text: () => "This song is not in the library any more.",
  },
  "intake-unknown": {
    meaning: NOT_THERE,
    text: () => "This file was not announced for this show, or was forgotten. Bring it in again.",
  },
  "export-unknown": {
    meaning: NOT_THERE,
    text: () => "There is no export at this address.",
  },
  "delivery-unknown": {
    meaning: NOT_THERE,
    text: () => "There is no delivery at this address.",
  },
});

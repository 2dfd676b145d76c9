import { BAD, CONFLICT, errorsOf, UNUSABLE } from "../errors/index.ts";

export const showError = errorsOf({
  "document-too-new": {
    meaning: UNUSABLE,
    text: ({ version, newest }: { version: number; newest: number }) =>
      `This show was saved by a newer Humming Tide (document version ${version}, this one reads up to ${newest}). ` +
      "Update the program to open it; nothing was changed.",
  },
  "delta-of-another": {
    meaning: BAD,
    text: ({ id }: { id: string }) =>
      `The delta names "${id}", which the document does not have: it was made from another one.`,
  },
  "order-locked": {
    meaning: CONFLICT,
    text: () => "The order of this show is locked: it is the client's. Unlock it first, or leave the order as it is.",
  },
  "too-many-markers": {
    meaning: BAD,
    text: ({ markers, most }: { markers: number; most: number }) =>
      `A song has at most ${most} markers, but these would make ${markers}. Thin them out, or set fewer.`,
  },
});

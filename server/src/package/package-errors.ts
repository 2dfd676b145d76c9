import { BAD, errorsOf } from "@humming-tide/core/errors";

/** Packages, which carry a show with all its media, that cannot be written or opened. */
export const packageError = errorsOf({
  "package-damaged": {
    meaning: BAD,
    text: ({ why }: { why: string }) =>
      `The package cannot be opened: ${why}. It may have been damaged on its way; copy it again. No show was changed.`,
  },
  "package-hostile": {
    meaning: BAD,
    text: ({ why }: { why: string }) =>
      `The package was refused: ${why}. No package of this program is like that. No show was changed.`,
  },
  "package-too-new": {
    meaning: BAD,
    text: ({ version }: { version: number }) =>
      `The package was made by a newer Humming Tide (package version ${version}). Update the program to open it.`,
  },
  "media-missing": {
    meaning: BAD,
    text: ({ fileName }: { fileName: string }) =>
      `"${fileName}" is not in the data folder any more, so this would not be whole. Bring the file in again, ` +
      "or take it out of the show.",
  },
});

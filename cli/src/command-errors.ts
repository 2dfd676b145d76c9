import { BAD, CONFLICT, errorsOf, NOT_THERE } from "@humming-tide/core/errors";

/** What a command cannot work with. Wrong arguments: usage-errors.ts. */
export const commandError = errorsOf({
  "path-unknown": {
    meaning: NOT_THERE,
    text: ({ what, path }: { what: string; path: string }) => `There is no ${what} at "${path}".`,
  },
  "folder-for-file-unknown": {
    meaning: NOT_THERE,
    text: ({ folder, file }: { folder: string; file: string }) =>
      `The folder "${folder}" for "${file}" does not exist.`,
  },
  "not-a-file": {
    meaning: BAD,
    text: ({ path }: { path: string }) => `"${path}" is a folder; name a file in it.`,
  },
  "cannot-read": {
    meaning: BAD,
    text: ({ file, why }: { file: string; why: string }) => `"${file}" cannot be read: ${why}`,
  },
  "place-taken": {
    meaning: CONFLICT,
    text: ({ place }: { place: string }) => `There is something at "${place}" already. Nothing was written.`,
  },
  "no-json": {
    meaning: BAD,
    text: ({ file, why }: { file: string; why: string }) => `"${file}" is no JSON: ${why}`,
  },
  "not-a-show": {
    meaning: BAD,
    text: ({ file, place, why }: { file: string; place: string; why: string }) =>
      `"${file}" is no show document: ${place}: ${why}. Save it again from the app, or give the package.`,
  },
  "not-an-analysis": {
    meaning: BAD,
    text: ({ file }: { file: string }) => `"${file}" is no analysis: it lacks durationSeconds or beats.`,
  },
  "song-without-analysis": {
    meaning: BAD,
    text: ({ fileName }: { fileName: string }) =>
      `The show's song "${fileName}" has no analysis: none of the files after --music is of "${fileName}".`,
  },
  "not-a-song": {
    meaning: BAD,
    text: ({ file, kind }: { file: string; kind: string }) => `"${file}" is a ${kind}, not a song.`,
  },
  "no-usable-picture": {
    meaning: BAD,
    text: ({ folder }: { folder: string }) =>
      `No picture in "${folder}" could be used (JPEG, PNG, WebP, AVIF, TIFF, GIF).`,
  },
  "no-such-output": {
    meaning: NOT_THERE,
    text: ({ output, names }: { output: string; names: string }) =>
      `The show has no output "${output}". It has ${names}.`,
  },
  "no-such-show": {
    meaning: NOT_THERE,
    text: ({ name }: { name: string }) => `There is no show named "${name}" in this data folder.`,
  },
  "show-ambiguous": {
    meaning: BAD,
    text: ({ name, ids }: { name: string; ids: readonly string[] }) =>
      `${ids.length} shows are named "${name}". Use the id of one: ${ids.join(", ")}.`,
  },
  "show-name": {
    meaning: BAD,
    text: () => "A show needs a name.",
  },
  "report-song-missing": {
    meaning: NOT_THERE,
    text: ({ song }: { song: string }) =>
      `The song "${song}" that the report names is not there, so the music cannot be measured.`,
  },
  "music-changed": {
    meaning: CONFLICT,
    text: ({ song }: { song: string }) =>
      `The song "${song}" is not the one that the film was made with: its content has changed.`,
  },
  stopped: {
    meaning: CONFLICT,
    text: () => "Stopped. No film was written.",
  },
});

import { BAD, CONFLICT, errorsOf, NO_ROOM, NOT_NOW, OURS } from "@humming-tide/core/errors";

const PUT_BACK =
  "Put back a copy of the data folder from before, or move this file away to begin with an empty shelf. Your " +
  "pictures, songs and films are untouched.";

/**
 * The data folder, its disk and database, ports and options. `doing` is a clause: what did not
 * happen.
 */
export const machineError = errorsOf({
  "data-folder": {
    meaning: NOT_NOW,
    text: ({ folder, why }: { folder: string; why: string }) =>
      `The data folder "${folder}" cannot be used: ${why}. Make it writable, or choose another with --data.`,
  },
  "folder-in-use": {
    meaning: CONFLICT,
    text: ({ folder, user }: { folder: string; user: string }) =>
      `The data folder "${folder}" is in use by ${user}. Another folder can be named with --data.`,
  },
  "folder-gone": {
    meaning: NOT_NOW,
    text: ({ folder, doing }: { folder: string | null; doing: string }) =>
      `The data folder${folder === null ? "" : ` "${folder}"`} cannot be reached: ${doing}. Its disk may have been ` +
      "taken out. Connect it again, then restart the program. This page keeps what is unsaved.",
  },
  "folder-read-only": {
    meaning: NO_ROOM,
    text: ({ doing }: { doing: string }) =>
      `The folder cannot be written to: ${doing}. What was saved before is kept. Make the folder writable, then try ` +
      "again.",
  },
  "disk-full": {
    meaning: NO_ROOM,
    text: ({ doing }: { doing: string }) =>
      `The disk is full: ${doing}. What was saved before is kept. Make room on the disk, then try again.`,
  },
  "database-empty": {
    meaning: OURS,
    text: ({ file }: { file: string }) =>
      `The database "${file}" is empty (0 bytes), though the data folder holds media. ${PUT_BACK}`,
  },
  "database-damaged": {
    meaning: OURS,
    text: ({ file, why }: { file: string | null; why: string }) =>
      `The database ${file === null ? "of the data folder" : `"${file}"`} is damaged or cut short: ${why}. ${PUT_BACK}`,
  },
  "database-newer": {
    meaning: OURS,
    text: ({ change }: { change: string }) =>
      `A newer Humming Tide has worked with this data folder (its database has the change "${change}"). Start that ` +
      "version again, or update this one. Nothing was changed.",
  },
  "port-taken": {
    meaning: CONFLICT,
    text: ({ port, host, why, options }: { port: number; host: string; why: string; options: string }) =>
      `Port ${port} on ${host} ${why}. Choose another with ${options}.`,
  },
  "option-unknown": {
    meaning: BAD,
    text: ({ why, known }: { why: string; known: readonly string[] }) => `${why}. Known options: ${known.join(" ")}.`,
  },
  "port-invalid": {
    meaning: BAD,
    text: ({ text }: { text: string }) => `A port is a whole number from 0 to 65535, but this is "${text}".`,
  },
  "address-invalid": {
    meaning: BAD,
    text: ({ option, text }: { option: string; text: string }) =>
      `--${option} is an address like https://films.example, but this is "${text}".`,
  },
});

import { BAD, errorsOf, NOT_NOW, NOT_THERE } from "@humming-tide/core/errors";

/** Films and players that cannot be written or read. */
export const outputError = errorsOf({
  "size-odd": {
    meaning: BAD,
    text: ({ width, height }: { width: number; height: number }) =>
      "A film's width and height are even, because colour is kept for blocks of 2 x 2 pixels, but " +
      `${width} x ${height} was asked for.`,
  },
  "size-too-small": {
    meaning: BAD,
    text: (size: { width: number; height: number; leastWidth: number; leastHeight: number }) =>
      `This kind of file has at least ${size.leastWidth} x ${size.leastHeight} pixels, but ${size.width} x ` +
      `${size.height} was asked for. Choose a larger size, or another kind of file.`,
  },
  "encoder-missing": {
    meaning: NOT_NOW,
    text: ({ encoder }: { encoder: string }) =>
      `This kind of file needs the encoder "${encoder}", which the ffmpeg of this machine does not have. Choose MP4 ` +
      "or WebM, or install a newer ffmpeg and start again.",
  },
  "sound-missing": {
    meaning: NOT_THERE,
    text: () => "A sound of this film could not be read from the data folder. Bring the song or the voice in again.",
  },
  "no-chapters": {
    meaning: BAD,
    text: () =>
      "Chapters are the show's passages, and it has only one, without a name. Divide it on Gather, or name the " +
      "passage.",
  },
  "player-not-built": {
    meaning: NOT_NOW,
    text: () =>
      'The page that plays films is missing from this program: it is made by "npm run build". Run that, then ' +
      "export again.",
  },
  "film-unreadable": {
    meaning: BAD,
    text: ({ path, why }: { path: string; why: string }) => `The film "${path}" cannot be read: ${why}`,
  },
});

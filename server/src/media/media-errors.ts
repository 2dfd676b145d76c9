import { BAD, errorsOf, NOT_NOW, NOT_THERE, NOT_YET, OURS, TOO_LARGE, UNUSABLE } from "@humming-tide/core/errors";

/** Why a file is not taken in, or cannot be used any more. */
export const mediaError = errorsOf({
  "file-empty": {
    meaning: BAD,
    text: () => "The file is empty (0 bytes). Copy it again from where it came.",
  },
  "file-unknown": {
    meaning: BAD,
    text: ({ mime }: { mime: string | null }) =>
      `By its content this is ${mime ? `a ${mime} file` : "neither a picture nor a clip nor a song"}, whatever ` +
      "its name says. Pictures: JPEG, PNG, WebP, AVIF, HEIC, TIFF, GIF, RAW with a preview. Clips: MP4, MOV, WebM. Songs: MP3, M4A, " +
      "WAV, FLAC, OGG.",
  },
  "file-too-large": {
    meaning: TOO_LARGE,
    text: ({ mostGigabytes }: { mostGigabytes: number }) => `Files of more than ${mostGigabytes} GB are not taken in.`,
  },
  "upload-broken-off": {
    meaning: BAD,
    text: () => "The file was not sent to its end, or the page was left. Send it again.",
  },
  "sum-wrong": {
    meaning: BAD,
    text: ({ fileName }: { fileName: string }) => `"${fileName}" does not have the content that it should have.`,
  },
  "media-unknown": {
    meaning: NOT_THERE,
    text: ({ what }: { what: string }) => `${what} is not in the data folder (any more). Bring it in again.`,
  },
  "file-unreadable": {
    meaning: BAD,
    text: () => "The file cannot be read: it is damaged or cut short. Copy it again from where it came.",
  },
  "file-silent-and-dark": {
    meaning: BAD,
    text: () => "The file holds neither pictures nor sound that could be read.",
  },
  "clip-damaged": {
    meaning: BAD,
    text: ({ why }: { why: string }) => `The clip cannot be read: ${why}. It may be damaged or cut short.`,
  },
  "clip-too-large": {
    meaning: BAD,
    text: ({ width, height, mostPixels }: { width: number; height: number; mostPixels: number }) =>
      `Clips of up to ${mostPixels} pixels a side are taken in, but this one has ${width} x ${height}.`,
  },
  "copy-in-making": {
    meaning: NOT_YET,
    text: () => "The playable copy of this clip is being made. It can be played in a while.",
  },
  "picture-too-large": {
    meaning: BAD,
    text: ({ mostPixels }: { mostPixels: number }) =>
      `The picture has more than ${mostPixels / 1e6} million pixels. Make it smaller and bring it in again.`,
  },
  "raw-preview-small": {
    meaning: BAD,
    text: ({ pixels, leastPixels }: { pixels: number; leastPixels: number }) =>
      `This is a camera's RAW file, and the largest preview in it ${pixels > 0 ? `has only ${pixels} pixels` : "is none"}` +
      ` along its longer side; ${leastPixels} are needed. Export the picture as JPEG or TIFF from the program that ` +
      "develops your RAW files, and bring that in.",
  },
  "picture-format": {
    meaning: BAD,
    text: () => "This kind of HEIF or AVIF picture cannot be decoded here. Save it as JPEG and bring it in again.",
  },
  "picture-damaged": {
    meaning: BAD,
    text: ({ why }: { why: string }) =>
      `The picture cannot be decoded to its end: it is damaged or cut short (${why}).`,
  },
  "song-damaged": {
    meaning: BAD,
    text: ({ why }: { why: string }) => `The song cannot be decoded: ${why}`,
  },
  "song-too-long": {
    meaning: BAD,
    text: ({ minutes, mostMinutes }: { minutes: number; mostMinutes: number }) =>
      `A song lasts up to ${mostMinutes} minutes, but this one has ${minutes}. Cut it, and bring in the part that ` +
      "is wanted.",
  },
  "song-too-short": {
    meaning: BAD,
    text: ({ durationSeconds, leastSeconds }: { durationSeconds: number; leastSeconds: number }) =>
      `A song lasts at least ${leastSeconds} s, but this one has ${durationSeconds.toFixed(2)} s. The file may be ` +
      "cut short.",
  },
  "sample-rate-unusual": {
    meaning: BAD,
    text: ({ rate, lowest, highest }: { rate: number; lowest: number; highest: number }) =>
      `The file says that it has ${rate} samples a second. From ${lowest} to ${highest} are taken in. Save it ` +
      "again with 48000.",
  },
  "too-many-channels": {
    meaning: BAD,
    text: ({ channels, most }: { channels: number; most: number }) =>
      `The file says that it has ${channels} channels. Up to ${most} are taken in. Save it again in stereo.`,
  },
  "sound-undecodable": {
    meaning: BAD,
    text: () => "The file holds no sound that can be decoded. It may be damaged or cut short.",
  },
  "voice-damaged": {
    meaning: BAD,
    text: ({ why }: { why: string }) => `The sound cannot be decoded: ${why}`,
  },
  "voice-too-short": {
    meaning: BAD,
    text: ({ durationSeconds, leastSeconds }: { durationSeconds: number; leastSeconds: number }) =>
      `A voice lasts at least ${leastSeconds} s, but this one has ${durationSeconds.toFixed(2)} s. The file may be ` +
      "cut short.",
  },
  "reading-too-long": {
    meaning: UNUSABLE,
    text: ({ limitSeconds }: { limitSeconds: number }) =>
      `Reading the file took longer than ${limitSeconds} s, so it was stopped. It may be damaged; save it again in ` +
      "the program it came from, or bring in a shorter one.",
  },
  "ffmpeg-missing": {
    meaning: NOT_NOW,
    text: ({ program, places }: { program: string; places: readonly string[] }) =>
      `No usable ${program} was found (with libx264 and aac; looked at: ${places.join(", ")}). Songs and export ` +
      'need it; pictures and their order work without. Install it ("apt install ffmpeg" on Debian) or set ' +
      "HUMMING_TIDE_FFMPEG, then start again.",
  },
  "ffmpeg-failed": {
    meaning: OURS,
    text: ({ ending, why }: { ending: string; why: string }) => `ffmpeg ended with ${ending}: ${why}`,
  },
});

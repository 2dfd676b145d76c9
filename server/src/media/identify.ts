import { HummingTideError } from "@humming-tide/core";
import { fileTypeFromFile } from "file-type";

export type MediaKind = "picture" | "song";

const KINDS: Readonly<Record<string, MediaKind>> = {
  "image/jpeg": "picture",
  "image/png": "picture",
  "image/apng": "picture",
  "image/webp": "picture",
  "image/avif": "picture",
  "image/tiff": "picture",
  "image/gif": "picture",
  "audio/mpeg": "song",
  "audio/x-m4a": "song",
  "audio/mp4": "song",
  "video/mp4": "song",
  "audio/aac": "song",
  "audio/wav": "song",
  "audio/vnd.wave": "song",
  "audio/flac": "song",
  "audio/x-flac": "song",
  "audio/ogg": "song",
  "application/ogg": "song",
};

/**
 * Says by its first bytes what a file is; its name does not matter. Throws `file-empty`, or `file-unknown` for what is neither a
 * picture nor a song. An MP4 without a name is taken for its sound.
 */
export async function identify(path: string, bytes: number): Promise<{ kind: MediaKind; mime: string }> {
  if (bytes === 0)
    throw new HummingTideError("file-empty", "The file is empty (0 bytes). Copy it again from where it came.");
  const type = await fileTypeFromFile(path);
  const mime = (type?.mime ?? "").split(";")[0]!;
  const kind = KINDS[mime];
  if (kind) return { kind, mime };
  throw new HummingTideError(
    "file-unknown",
    `By its content this is ${mime ? `a ${mime} file` : "neither a picture nor a song"}, whatever its name says. Pictures: JPEG, PNG, WebP, AVIF, TIFF, GIF. Songs: MP3, M4A, WAV, FLAC, OGG.`,
  );
}

import { HummingTideError } from "@humming-tide/core";
import { itemAt } from "@humming-tide/core/presence";
import { fileTypeFromFile } from "file-type";
import { probe } from "./ffmpeg.ts";
import { mediaError } from "./media-errors.ts";
import { isRaw } from "./raw-preview.ts";

export type MediaKind = "picture" | "clip" | "song";

/** What content of a type is taken for; "film" may be a clip or only sound. */
const KINDS: Readonly<Record<string, "picture" | "song" | "film">> = {
  "image/jpeg": "picture",
  "image/png": "picture",
  "image/apng": "picture",
  "image/webp": "picture",
  "image/avif": "picture",
  "image/heic": "picture",
  "image/heif": "picture",
  "image/tiff": "picture",
  "image/gif": "picture",
  "audio/mpeg": "song",
  "audio/x-m4a": "film",
  "audio/mp4": "film",
  "video/x-m4v": "film",
  "video/mp4": "film",
  "video/webm": "film",
  "video/matroska": "film",
  "audio/aac": "song",
  "audio/wav": "song",
  "audio/vnd.wave": "song",
  "audio/flac": "song",
  "audio/x-flac": "song",
  "audio/ogg": "song",
  "application/ogg": "song",
};

/**
 * Says by its content what a file is; its name does not matter. What can hold both is a clip where
 * it has moving pictures (a cover picture is none) and a song where it has only sound. Throws
 * `file-empty`, or `file-unknown` for everything else.
 */
export async function identify(path: string, bytes: number): Promise<{ kind: MediaKind; mime: string }> {
  if (bytes === 0) throw mediaError("file-empty");
  const type = await fileTypeFromFile(path);
  const mime = itemAt((type?.mime ?? "").split(";"), 0);
  const kind = type?.ext === "mov" ? "film" : KINDS[mime];
  if (kind === "film") return { kind: await filmKind(path), mime };
  if (kind) return { kind, mime };
  if (isRaw(mime)) return { kind: "picture", mime };
  throw mediaError("file-unknown", { mime: mime || null });
}

interface ProbedStream {
  readonly codec_type?: string;
  readonly disposition?: { readonly attached_pic?: number };
}

async function filmKind(path: string): Promise<"clip" | "song"> {
  const answer = await probe(path, ["-show_entries", "stream=codec_type:stream_disposition=attached_pic"]).catch(
    (cause: unknown) => {
      if (cause instanceof HummingTideError) throw cause;
      throw mediaError("file-unreadable", {}, { cause });
    },
  );
  const streams = (answer["streams"] ?? []) as ProbedStream[];
  const moving = streams.some((stream) => stream.codec_type === "video" && stream.disposition?.attached_pic !== 1);
  if (moving) return "clip";
  if (streams.some((stream) => stream.codec_type === "audio")) return "song";
  throw mediaError("file-silent-and-dark");
}

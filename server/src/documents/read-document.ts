import { inflateSync } from "node:zlib";
import { itemAt } from "@humming-tide/core/presence";
import { readShowDocument, type ShowDocument, showDocumentSchema } from "@humming-tide/core/show";
import { ZodError } from "zod";
import { documentError } from "./document-errors.ts";
import { isDeeperThan } from "./json-depth.ts";

/** The largest document in JSON: 5,000 slides with long names. */
export const LARGEST_DOCUMENT_BYTES = 16 * 1024 ** 2;
/** A document nests 12 deep. */
const DEEPEST = 40;

/**
 * JSON of a stranger, after a look at its size and depth. Throws `json-too-large`, `json-too-deep`
 * and `json-invalid`.
 */
export function parseJson(text: Uint8Array, largestBytes = LARGEST_DOCUMENT_BYTES): unknown {
  if (text.length > largestBytes)
    throw documentError("json-too-large", { bytes: text.length, mostBytes: largestBytes });
  if (isDeeperThan(DEEPEST, text)) throw documentError("json-too-deep", { deepest: DEEPEST });
  try {
    return JSON.parse(new TextDecoder().decode(text)) as unknown;
  } catch (cause) {
    throw documentError("json-invalid", {}, { cause });
  }
}

/** A document of any version that was kept. Throws `show-newer`, `show-damaged`. */
export function readStored(text: string | Uint8Array): ShowDocument {
  try {
    return readShowDocument(parseJson(typeof text === "string" ? new TextEncoder().encode(text) : text));
  } catch (cause) {
    if ((cause as { code?: string }).code === "document-too-new")
      throw documentError("show-newer", { why: (cause as Error).message }, { cause });
    throw documentError("show-damaged", { why: reasonOf(cause) }, { cause });
  }
}

/** A revision as it is kept. Throws what `readStored` throws. */
export function readPacked(packed: Uint8Array): ShowDocument {
  let text: Uint8Array;
  try {
    text = inflateSync(packed, { maxOutputLength: LARGEST_DOCUMENT_BYTES });
  } catch (cause) {
    throw documentError("show-damaged", { why: "it is not packed as it was" }, { cause });
  }
  return readStored(text);
}

/** A document that a page sends: of the newest version. Throws `json-…` and what Zod throws. */
export const readSent = (text: Uint8Array): ShowDocument => showDocumentSchema.parse(parseJson(text));

function reasonOf(cause: unknown): string {
  if (!(cause instanceof ZodError)) return (cause as Error).message.replace(/\.$/, "");
  const issue = itemAt(cause.issues, 0);
  return `${issue.path.join(".") || "document"}: ${issue.message}`;
}

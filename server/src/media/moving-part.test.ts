import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { stripedJpeg } from "../testing/index.ts";
import { numberedClip } from "../testing/numbered-clip.ts";
import { movingPart } from "./moving-part.ts";

let folder = "";
let picture: Uint8Array = new Uint8Array();
let clip: Uint8Array = new Uint8Array();

beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "moving-"));
  picture = await stripedJpeg(3);
  clip = await readFile(numberedClip(path.join(folder, "clip.mp4"), "25"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function found(mime: string, ...pieces: Uint8Array[]): ReturnType<typeof movingPart> {
  const file = path.join(folder, "file");
  await writeFile(file, Buffer.concat(pieces));
  return movingPart(file, mime);
}

/** A box of ISO/IEC 14496-12. */
function box(type: string, content: Uint8Array): Buffer {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(8 + content.length);
  head.write(type, 4, "latin1");
  return Buffer.concat([head, content]);
}

describe("the clip in a picture's file", () => {
  it("is found behind a JPEG to the byte, whatever follows it", async () => {
    const part = { startByte: picture.length, bytes: clip.length };
    expect(await found("image/jpeg", picture, clip)).toEqual(part);
    expect(await found("image/jpeg", picture, clip, Buffer.from([0, 0, 0, 3, 1, 2, 3]))).toEqual(part);
  });

  it("is found in its box of a HEIC file", async () => {
    const heic = await readFile(new URL("../testing/fixtures/four-colours.heic", import.meta.url));
    expect(await found("image/heic", heic, box("mpvd", clip))).toEqual({
      startByte: heic.length + 8,
      bytes: clip.length,
    });
    expect(await found("image/heic", heic)).toBeNull();
  });

  it("is none where only a name looks like one, or another picture lies behind (a depth map)", async () => {
    expect(await found("image/jpeg", picture)).toBeNull();
    expect(await found("image/jpeg", picture, picture)).toBeNull();
    expect(await found("image/jpeg", picture, box("ftyp", Buffer.from("isom")))).toBeNull();
    expect(await found("image/jpeg", picture, clip.subarray(0, 40))).toBeNull();
    expect(await found("image/png", picture, clip)).toBeNull();
  });

  it("never lies outside of the file, whatever the bytes", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.oneof(fc.constantFrom("ftyp", "moov", "mdat", "mpvd"), fc.uint8Array({ maxLength: 12 })), {
          maxLength: 12,
        }),
        fc.constantFrom("image/jpeg", "image/heic"),
        async (pieces, mime) => {
          const bytes = pieces.map((piece) => (typeof piece === "string" ? box(piece, new Uint8Array(3)) : piece));
          const part = await found(mime, ...bytes);
          const length = bytes.reduce((sum, one) => sum + one.length, 0);
          if (part) expect(part.startByte >= 0 && part.startByte + part.bytes <= length).toBe(true);
        },
      ),
      { numRuns: 200 },
    );
  });
});

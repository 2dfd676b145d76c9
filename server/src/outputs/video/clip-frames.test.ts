import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import type { Turn } from "@humming-tide/core/show";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { clipFrame, ffmpeg, NUMBERED_CLIP, numberedClip, temporaryFolder } from "../../testing/index.ts";
import { ClipFrames } from "./clip-frames.ts";

const { width: WIDTH, height: HEIGHT, frames: FRAMES } = NUMBERED_CLIP;
const HASH = "a".repeat(64);

let place: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(() => place.remove());

const film = (name: string, rate: string, more: readonly string[] = []): string =>
  numberedClip(path.join(place.folder, name), rate, more);

/** The number that a decoder shows at an instant, read from its pixels. */
async function numberAt(clips: ClipFrames, seconds: number, turn: Turn = 0): Promise<number> {
  const size = turn % 180 === 0 ? { width: WIDTH, height: HEIGHT } : { width: HEIGHT, height: WIDTH };
  const clip = { slotIndex: 3, seconds, secondsPerFrame: 0.04, size };
  await clips.preload(clipFrame(HASH, clip, turn));
  const { image } = present(clips.get(clip));
  const { data, width } = (image as { getContext(kind: "2d"): { getImageData: (...at: number[]) => ImageDataLike } })
    .getContext("2d")
    .getImageData(0, 0, size.width, size.height);
  let value = 0;
  for (let bit = 0; bit < 8; bit++) {
    const along = (bit + 0.5) / 8;
    // Turned by a quarter clockwise, left becomes up.
    const [x, y] =
      turn === 90 ? [HEIGHT / 2, along * WIDTH] : turn === 180 ? [(1 - along) * WIDTH, 20] : [along * WIDTH, 20];
    value = 2 * value + (itemAt(data, 4 * (Math.floor(y) * width + Math.floor(x))) > 128 ? 1 : 0);
  }
  return value;
}
interface ImageDataLike {
  readonly data: Uint8ClampedArray;
  readonly width: number;
}

async function withClips(file: string, test: (clips: ClipFrames) => Promise<void>): Promise<void> {
  const clips = new ClipFrames(() => file);
  try {
    await test(clips);
  } finally {
    clips.close();
  }
}

describe("decoded frames of clips", () => {
  it.each(["24000/1001", "24", "25", "30000/1001", "50", "60000/1001", "60"])(
    "are those of their instants at %s frames a second, in films of 25 and 30 frames, from the beginning and after a jump",
    async (rate) => {
      const [num, den] = rate.split("/").map(Number);
      const fps = present(num) / (den ?? 1);
      const file = film(`${fps.toFixed(2)}.mp4`, rate);
      await withClips(file, async (clips) => {
        for (const [filmRate, from] of [
          [25, 0],
          [30, 0.61],
        ] as const) {
          for (let frame = 0; frame < 24; frame++) {
            const seconds = from + frame / filmRate;
            // The frame that is being shown then: it has begun and the next has not, but for a
            // thousandth of a second.
            const shown = await numberAt(clips, seconds);
            expect(shown / fps, `${seconds.toFixed(4)} s`).toBeLessThanOrEqual(seconds + 1e-3);
            expect((shown + 1) / fps, `${seconds.toFixed(4)} s`).toBeGreaterThan(seconds - 1e-3);
          }
        }
        expect(await numberAt(clips, 5.5 / fps)).toBe(5);
        expect(await numberAt(clips, 999)).toBe(FRAMES - 1);
      });
    },
  );

  it("are right where frames do not come evenly, and where the file begins late", async () => {
    // Three short frames and a long one, again and again, in thousandths of a second: 20, 20, 20,
    // 100.
    const uneven = "settb=1/1000,setpts='(floor(N/4)*160+mod(N,4)*20)'";
    const file = film("uneven.mkv", "25", ["-vf", uneven, "-vsync", "0", "-enc_time_base", "1:1000"]);
    const starts = Array.from({ length: FRAMES }, (_, k) => (Math.floor(k / 4) * 160 + (k % 4) * 20) / 1000);
    const late = path.join(place.folder, "late.mkv");
    ffmpeg(["-itsoffset", "1.37", "-i", file, "-c", "copy", late]);
    for (const clip of [file, late]) {
      await withClips(clip, async (clips) => {
        for (let seconds = 0.301; seconds < 1.6; seconds += 0.04) {
          const expected = starts.findLastIndex((start) => start <= seconds + 1e-4);
          expect(await numberAt(clips, seconds), `${seconds.toFixed(3)} s`).toBe(expected);
        }
      });
    }
  });

  it("are turned as a person turned them, and as the file's own metadata says", async () => {
    const file = film("plain.mov", "25");
    const turned = path.join(place.folder, "turned.mov");
    ffmpeg(["-i", file, "-c", "copy", "-metadata:s:v:0", "rotate=180", turned]);
    await withClips(file, async (clips) => {
      expect(await numberAt(clips, 37 / 25, 90)).toBe(37);
    });
    await withClips(file, async (clips) => {
      expect(await numberAt(clips, 38 / 25, 180)).toBe(38);
    });
    await withClips(turned, async (clips) => {
      expect(await numberAt(clips, 38 / 25, 180)).toBe(reversedIfKept(38));
    });
  });

  it("begin where an edit list says, and not with what the file holds before", async () => {
    const file = film("whole.mp4", "25");
    const cut = path.join(place.folder, "cut.mp4");
    // Copied from frame 30 on: the file goes back to key frame 24, and its list passes six over.
    ffmpeg(["-ss", "1.2", "-i", file, "-c", "copy", cut]);
    await withClips(cut, async (clips) => {
      for (const k of [0, 1, 7, 20, 3, 41]) expect(await numberAt(clips, k / 25)).toBe(30 + k);
    });
  });

  it("are mirrored where the file's matrix says so, as front cameras write it", async () => {
    const file = film("front.mp4", "25");
    const content = await readFile(file);
    // The track's header: after its type, 36 bytes of numbers, then a matrix that begins with 1.0.
    const matrix = content.indexOf("tkhd") + 4 + 40;
    expect(content.readInt32BE(matrix)).toBe(0x10000);
    content.writeInt32BE(-0x10000, matrix);
    content.writeInt32BE(WIDTH * 0x10000, matrix + 24);
    const mirrored = path.join(place.folder, "mirrored.mp4");
    await writeFile(mirrored, content);
    await withClips(mirrored, async (clips) => {
      for (const k of [5, 38]) expect(await numberAt(clips, k / 25)).toBe(reversedIfKept(k));
    });
  });

  it("of a clip that is not there are an error with its reason", async () => {
    await withClips(path.join(place.folder, "nowhere.mp4"), async (clips) => {
      await expect(numberAt(clips, 0)).rejects.toThrow(/nowhere\.mp4|No such file/);
    });
  });
});

/**
 * Turned by 180 degrees twice (by its metadata and by the person) the picture stands as it was
 * filmed, so the stripes read backwards here.
 */
function reversedIfKept(value: number): number {
  let reversed = 0;
  for (let bit = 0; bit < 8; bit++) reversed |= ((value >> bit) & 1) << (7 - bit);
  return reversed;
}

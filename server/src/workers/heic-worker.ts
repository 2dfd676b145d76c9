import { readFile } from "node:fs/promises";
import { parentPort } from "node:worker_threads";
import { present } from "@humming-tide/core/presence";
import libheif, { type HeifImage } from "libheif-js/wasm-bundle.js";
import type { HeicAnswer, HeicPixels } from "./decode-heic.ts";

present(parentPort).once("message", (path: string) => {
  void answer(path).then((message) => present(parentPort).postMessage(message));
});

async function answer(path: string): Promise<HeicAnswer> {
  try {
    await libheif.ready;
    // Thumbnails and depth maps belong to a picture; they are none themselves (ISO/IEC 23008-12).
    const pictures = new libheif.HeifDecoder().decode(await readFile(path));
    const main = pictures.find((picture) => picture.is_primary()) ?? pictures[0];
    if (!main) return { failure: "no picture of it can be read" };
    return await pixelsOf(main);
  } catch (error) {
    return { failure: (error as Error).message };
  }
}

function pixelsOf(picture: HeifImage): Promise<HeicPixels> {
  const [width, height] = [picture.get_width(), picture.get_height()];
  const data = new Uint8ClampedArray(4 * width * height);
  return new Promise((resolve, reject) => {
    picture.display({ data, width, height }, (shown) => {
      if (shown) resolve({ width, height, pixels: new Uint8Array(shown.data.buffer) });
      else reject(new Error("its pixels cannot be decoded"));
    });
  });
}

import { parentPort } from "node:worker_threads";
import { present } from "@humming-tide/core/presence";
import { type FaceSides, findFaces, openFaceNetwork } from "../media/face-network.ts";
import { withOpenEyes } from "../media/open-eyes.ts";
import type { FaceAnswer, FaceQuestion } from "./look-for-faces.ts";

const network = openFaceNetwork();
// Told with the first answer.
network.catch(() => undefined);

present(parentPort).on("message", ({ id, raster, sides }: FaceQuestion) => {
  void answer(raster, sides).then((said) => present(parentPort).postMessage({ id, ...said } satisfies FaceAnswer));
});

async function answer(raster: FaceQuestion["raster"], sides: FaceSides): Promise<Omit<FaceAnswer, "id">> {
  try {
    return { faces: withOpenEyes(await findFaces(await network, raster, sides), raster) };
  } catch (error) {
    console.error(`Faces are not looked for on this machine: ${(error as Error).message}`);
    return { faces: null };
  }
}

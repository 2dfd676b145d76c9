import { writeFile } from "node:fs/promises";
import { parentPort } from "node:worker_threads";
import { cubeText } from "@humming-tide/core/colour";
import { present } from "@humming-tide/core/presence";
import type { ColourTableTask } from "./write-colour-table.ts";

present(parentPort).once("message", ({ colours, place }: ColourTableTask) => {
  void writeFile(place, cubeText(colours), { flag: "wx" })
    .then(() => null)
    .catch((error: Error) => error)
    .then((failure) => present(parentPort).postMessage(failure));
});

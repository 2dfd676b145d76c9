import { writeFile } from "node:fs/promises";
import { parentPort } from "node:worker_threads";
import { colourTables } from "@humming-tide/core/colour";
import { present } from "@humming-tide/core/presence";
import type { ColourTablesTask } from "./write-colour-tables.ts";

present(parentPort).once("message", (task: ColourTablesTask) => {
  void write(task)
    .then(() => null)
    .catch((error: Error) => error)
    .then((failure) => present(parentPort).postMessage(failure));
});

async function write({ colours, places }: ColourTablesTask): Promise<void> {
  const { light, code, bend } = colourTables(colours);
  await writeFile(places.light, light);
  await writeFile(places.code, code);
  if (bend !== null) await writeFile(places.bend, bend);
}

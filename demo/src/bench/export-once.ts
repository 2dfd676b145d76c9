// DATA-FOLDER SLIDES: exports a film of that many pictures of the folder's show, and says how many
// frames it had. A process of its own, so that its memory can be measured (bench-memory.ts).

import path from "node:path";
import { planFilm } from "@humming-tide/core/film";
import { present } from "@humming-tide/core/presence";
import { makeFilm, openStudio } from "@humming-tide/server";

const [dataFolder, slideCount] = process.argv.slice(2) as [string, string];
const studio = await openStudio(dataFolder);
const [listed] = await studio.shelf.list();
const show = await studio.shows.get(present(listed).id);
const slides = show.document.slides.slice(0, Number(slideCount));
const document = { ...show.document, slides };
const plan = planFilm(document, await studio.library.filmFacts(document));
await makeFilm({
  plan,
  form: { container: "mp4", quality: "fine" },
  copies: await studio.library.prepareFilm(document, plan),
  store: studio.library.store,
  title: "bench",
  filmPath: path.join(dataFolder, "bench.mp4"),
  partsFolder: path.join(dataFolder, "bench-parts"),
  songPathOf: () => "",
  signal: new AbortController().signal,
  onProgress: () => undefined,
});
console.log(`${plan.slots.length} slides, ${plan.totalFrames} frames`);
await studio.close();

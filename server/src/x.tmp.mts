import { writeFileSync } from "node:fs";
import { AS_IT_IS, drawFrame, type FramePlan, type PlannedWords } from "@humming-tide/core/picture";
import { FIRST_STYLE } from "@humming-tide/core/show";
import { createCanvas } from "@napi-rs/canvas";
import { FilmSources } from "./export/film-sources.ts";
import { ClipFrames, PictureCache } from "./export/index.ts";
import { surfaceOf } from "./export/picture-cache.ts";

const { fade, ...L } = FIRST_STYLE.letters;
const w = (kind: PlannedWords["kind"], text: string, place: PlannedWords["place"], more: any = {}): PlannedWords => ({
  kind,
  text,
  place,
  size: 1,
  letters: { ...L, ...more },
});
const sheets: PlannedWords[][] = [
  [
    w("title", "The Lantern Regatta\nClosing night in the harbour", "middle", {
      font: "Cormorant Garamond",
      weight: 700,
    }),
    w("caption", "Boats are being painted 🎨 at the quay 👩‍🎨", "bottom"),
  ],
  [
    w("lower-third", "Crew of the Firefly\nfirst across the line 🏁🇳🇴", "bottom-left", {
      font: "Montserrat",
      weight: 700,
      outline: { width: 0.4, colour: "#102030" },
    }),
    w("caption", "מרוץ הפנסים בנמל 2031 night", "bottom", { backing: { colour: "#102030", strength: 0.7 } }),
  ],
  [
    w("text", "سباق الفوانيس في الميناء 123 hello\nΗ γιορτή στο λιμάνι · Гонка фонарей · Łódź, Tromsø 中文", "middle", {
      font: "Playfair Display",
    }),
  ],
  [
    w("title", "Fireworks\nover the breakwater", "top-right", {
      font: "Great Vibes",
      outline: { width: 1, colour: "#7a2040" },
    }),
    w(
      "text",
      "Donaudampfschifffahrtselektrizitätenhauptbetriebswerkbauunterbeamtengesellschaftsversammlung",
      "bottom",
      { font: "Oswald", weight: 700 },
    ),
  ],
];
const t0 = performance.now();
for (const [i, sheet] of sheets.entries()) {
  const size = { width: 960, height: 540 };
  const plan: FramePlan = {
    size,
    veils: [],
    layers: [
      {
        kind: "scene",
        ground: { kind: "colour", colour: i % 2 ? "#c8a878" : "#23505a" },
        alpha: 1,
        bounds: null,
        mask: null,
        parts: sheet.map((_, index) => ({
          kind: "words",
          sheet,
          index,
          alpha: 1,
          scrolled: null,
          placement: AS_IT_IS,
        })),
      },
    ],
  };
  const c = createCanvas(960, 540);
  const s = new FilmSources(new PictureCache(() => ""), new ClipFrames(() => ""), size);
  await s.need(plan, []);
  const t = performance.now();
  drawFrame(surfaceOf(c), plan, s);
  console.log(i, (performance.now() - t).toFixed(1), "ms");
  writeFileSync(`/tmp/scratch/w${i}.png`, c.toBuffer("image/png"));
}

import path from "node:path";
import { planFilm } from "@humming-tide/core/film";
import { type FramePlan, newTransition, planFrame } from "@humming-tide/core/picture";
import { hasPicture, type ShowDocument, VARIED_KINDS } from "@humming-tide/core/show";
import { openStudio } from "@humming-tide/server";
import { drawStill, PictureCache } from "@humming-tide/server/export";
import { expect, type Page, test } from "@playwright/test";
import { build } from "vite";
import { copyDemo, type RunningApp, showsOf, startApp } from "./running-app.ts";

let app: RunningApp;

test.use({ bypassCSP: true });
test.beforeAll(async () => {
  app = await startApp(copyDemo);
});
test.afterAll(() => app.close());

/** What the page needs to draw frames by itself, from the same sources as the stage. */
async function pageScript(): Promise<string> {
  const result = await build({
    configFile: false,
    logLevel: "error",
    build: {
      write: false,
      lib: { entry: path.join(import.meta.dirname, "parity-page.ts"), formats: ["iife"], name: "parity" },
    },
  });
  const [bundle] = Array.isArray(result) ? result : [result];
  if (!bundle || !("output" in bundle)) throw new Error("nothing was bundled");
  return bundle.output[0].code;
}

/** Peak signal to noise ratio of two pictures' colours, in decibels; 100 for equal ones. */
function psnr(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) if (i % 4 !== 3) sum += (a[i]! - b[i]!) ** 2;
  return sum === 0 ? 100 : 10 * Math.log10((255 * 255 * 0.75 * a.length) / sum);
}

interface NamedFrame {
  readonly name: string;
  readonly plan: FramePlan;
}

/** Every transition at three places, every fill, moving and standing pictures, in two shapes. */
function framesToCompare(
  show: ShowDocument,
  plan: (document: ShowDocument) => ReturnType<typeof planFilm>,
): NamedFrame[] {
  const frames: NamedFrame[] = [];
  const length = { unit: "seconds", count: 2 } as const;
  const sizes = [
    { width: 640, height: 360 },
    { width: 360, height: 640 },
  ];
  for (const size of sizes) {
    for (const [i, kind] of VARIED_KINDS.entries()) {
      const film = plan({ ...show, size, style: { ...show.style, transition: newTransition(kind, length) } });
      const { transitionIn } = film.slots[3 + 2 * i]!;
      for (const share of [0.25, 0.5, 0.75]) {
        const frame = Math.round(
          transitionIn.startFrame + share * (transitionIn.endFrame - 1 - transitionIn.startFrame),
        );
        frames.push({ name: `${kind} ${share} in ${size.width} x ${size.height}`, plan: planFrame(film, frame) });
      }
    }
    const fills = [
      { kind: "blur" },
      { kind: "colour", colour: "#204050" },
      { kind: "picture", sha256: show.slides.find(hasPicture)!.sha256 },
      { kind: "crop" },
    ] as const;
    for (const fill of fills) {
      const film = plan({ ...show, size, style: { ...show.style, fill } });
      const slot = film.slots.find(({ pictureSize }) => pictureSize.height > pictureSize.width)!;
      frames.push({
        name: `fill ${fill.kind} in ${size.width} x ${size.height}`,
        plan: planFrame(film, slot.transitionIn.endFrame + 7),
      });
    }
  }
  return frames;
}

async function drawnByPage(page: Page, plans: readonly FramePlan[]): Promise<Uint8Array[]> {
  const texts = await page.evaluate(
    (frames) => (globalThis as unknown as { drawInPage: (plans: unknown) => Promise<string[]> }).drawInPage(frames),
    plans,
  );
  return texts.map((text) => Buffer.from(text, "base64"));
}

test("the page draws what the export draws, to 40 dB and better", async ({ page }) => {
  const [first] = await showsOf(app);
  await page.goto(app.address);
  await page.addScriptTag({ content: await pageScript() });
  const studio = await openStudio(path.join(app.folder, "data"));
  try {
    const { document } = await studio.shows.get(first!.id);
    const facts = await studio.library.filmFacts(document);
    const frames = framesToCompare(document, (show) => planFilm(show, facts));
    const { store } = studio.library;
    const cache = new PictureCache((picture, kind) =>
      store.derivedPath(picture, kind === "fill" ? "fill.jpg" : "working.jpg"),
    );
    for (const { name, plan } of frames) {
      const [inPage] = await drawnByPage(page, [plan]);
      const ratio = psnr(inPage!, await drawStill(plan, cache));
      if (process.env["SAY_PARITY"]) console.log(`${ratio.toFixed(1)} dB  ${name}`);
      expect(ratio, name).toBeGreaterThanOrEqual(40);
    }
  } finally {
    await studio.close();
  }
});

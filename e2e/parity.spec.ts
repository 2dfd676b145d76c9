import path from "node:path";
import { Readable } from "node:stream";
import { planFilm } from "@humming-tide/core/film";
import { type FramePlan, imagesIn, newTransition, planFrame } from "@humming-tide/core/picture";
import { itemAt, present } from "@humming-tide/core/presence";
import {
  AS_ABOVE,
  changeSlides,
  FILM_FONTS,
  FIRST_LAYOUT,
  FIRST_STYLE,
  gatherOnSlide,
  hasPicture,
  LAYOUT_KINDS,
  type Letters,
  LOOK_KINDS,
  newWords,
  OVERLAY_KINDS,
  type ShowDocument,
  type Style,
  VARIED_KINDS,
  WORD_KINDS,
  type Words,
} from "@humming-tide/core/show";
import { openStudio } from "@humming-tide/server";
import {
  ClipFrames,
  drawnFile,
  drawStill,
  FramePainter,
  type PathOfImage,
  PictureCache,
} from "@humming-tide/server/video";
import { expect, type Page, test } from "@playwright/test";
import sharp from "sharp";
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
      rolldownOptions: { output: { codeSplitting: false } },
      lib: { entry: path.join(import.meta.dirname, "parity-page.ts"), formats: ["es"] },
    },
  });
  const [bundle] = Array.isArray(result) ? result : [result];
  if (!bundle || !("output" in bundle)) throw new Error("nothing was bundled");
  return bundle.output[0].code;
}

/** Peak signal to noise ratio of two pictures' colours, in decibels; 100 for equal ones. */
function psnr(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) if (i % 4 !== 3) sum += (itemAt(a, i) - itemAt(b, i)) ** 2;
  return sum === 0 ? 100 : 10 * Math.log10((255 * 255 * 0.75 * a.length) / sum);
}

/**
 * The same of a frame of video: its luma and colour differences, against those of a picture by the
 * definition of BT.709, limited range.
 */
function psnrOfVideo(rgba: Uint8Array, yuv: Uint8Array, { width, height }: FramePlan["size"]): number {
  let sum = 0;
  const half = { width: width / 2, height: height / 2 };
  const blue = width * height;
  const red = blue + half.width * half.height;
  for (let y = 0; y < half.height; y++) {
    for (let x = 0; x < half.width; x++) {
      let [meanBlue, meanRed] = [0, 0];
      for (const [dx, dy] of [
        [0, 0],
        [1, 0],
        [0, 1],
        [1, 1],
      ] as const) {
        const at = (2 * y + dy) * width + 2 * x + dx;
        const [r, g, b] = [itemAt(rgba, 4 * at), itemAt(rgba, 4 * at + 1), itemAt(rgba, 4 * at + 2)];
        const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
        sum += (itemAt(yuv, at) - 16 - (219 * luma) / 255) ** 2;
        meanBlue += (b - luma) / 1.8556 / 4;
        meanRed += (r - luma) / 1.5748 / 4;
      }
      const at = y * half.width + x;
      sum +=
        (itemAt(yuv, blue + at) - 128 - (224 * meanBlue) / 255) ** 2 +
        (itemAt(yuv, red + at) - 128 - (224 * meanRed) / 255) ** 2;
    }
  }
  return sum === 0 ? 100 : 10 * Math.log10((219 * 219 * yuv.length) / sum);
}

interface NamedFrame {
  readonly name: string;
  readonly plan: FramePlan;
}

/**
 * Every transition at three places, every fill, moving and standing pictures, words of every kind
 * and font, looks, borders, overlays and layouts, in two shapes.
 */
function framesToCompare(
  show: ShowDocument,
  plan: (document: ShowDocument) => ReturnType<typeof planFilm>,
  ornament: string,
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
      const { transitionIn } = itemAt(film.slots, 3 + 2 * i);
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
      { kind: "picture", sha256: present(show.slides.find(hasPicture)).sha256 },
      { kind: "crop" },
      { kind: "neighbours" },
    ] as const;
    for (const fill of fills) {
      const film = plan({ ...show, size, style: { ...show.style, fill } });
      const slot = present(film.slots.find(({ pictureSize }) => pictureSize.height > pictureSize.width));
      frames.push({
        name: `fill ${fill.kind} in ${size.width} x ${size.height}`,
        plan: planFrame(film, slot.transitionIn.endFrame + 7),
      });
    }
    frames.push(...framesWithWords({ ...show, size }, plan), ...framesWithLooks({ ...show, size }, plan, ornament));
  }
  return frames;
}

const SAMPLES: Readonly<Record<Words["kind"], string>> = {
  title: "Closing night 🏮\nThe lantern regatta, 21 June 2031",
  text: "מרוץ הפנסים בנמל, לילה 31\nسباق الفوانيس في الميناء\nΗ γιορτή στο λιμάνι",
  "lower-third": "Crew of the Firefly 🇳🇴\nfirst across the line",
  end: "Until next year\n👩‍🎨 🎆 🛶",
  credits: "Boats:\nFirefly\nWill-o’-the-wisp\n\nLanterns:\nThe paper mill",
};

/**
 * Every kind of words, every font, outline, shadow and backing; standing, in a dissolve and in a
 * zoom.
 */
function framesWithWords(
  show: ShowDocument,
  plan: (document: ShowDocument) => ReturnType<typeof planFilm>,
): NamedFrame[] {
  const { letters } = FIRST_STYLE;
  const looks: readonly Letters[] = [
    { ...letters, fade: null },
    { ...letters, fade: null, weight: 700, outline: { width: 0.5, colour: "#20506a" } },
    { ...letters, fade: null, colour: "#102030", shadow: 0, backing: { colour: "#f3e9d4", strength: 0.7 } },
  ];
  return FILM_FONTS.map((font, i): NamedFrame => {
    const kind = itemAt(WORD_KINDS, i % WORD_KINDS.length);
    const look = { ...itemAt(looks, i % looks.length), font };
    const transition = newTransition(i % 2 === 0 ? "dissolve" : "zoom", { unit: "seconds", count: 2 });
    const slides = show.slides.map((slide) => ({
      ...slide,
      caption: "Boats are being painted at the quay",
      words: [newWords(kind, SAMPLES[kind])],
    }));
    const passages = show.passages.map((passage) => ({ ...passage, style: AS_ABOVE }));
    const film = plan({ ...show, slides, passages, style: { ...show.style, letters: look, transition } });
    const slot = itemAt(film.slots, 4 + i);
    const where = i % 3 === 0 ? 0.3 : 1.6;
    const { startFrame, endFrame } = slot.transitionIn;
    const frame = Math.round(startFrame + where * (endFrame - startFrame));
    const { width, height } = show.size;
    return {
      name: `${kind} in ${font}, ${transition.kind} ${where}, ${width} x ${height}`,
      plan: planFrame(film, frame),
    };
  });
}

/** Every tone, with levels; border and mat; every overlay; a graphic; every layout. */
function framesWithLooks(
  show: ShowDocument,
  plan: (document: ShowDocument) => ReturnType<typeof planFilm>,
  ornament: string,
): NamedFrame[] {
  const shape = `${show.size.width} x ${show.size.height}`;
  const graphic = {
    kind: "own",
    sha256: ornament,
    fileName: "ornament.png",
    place: "top-right",
    size: 0.3,
    opacity: 0.8,
  } as const;
  const styles: readonly (readonly [string, Partial<Style>])[] = [
    ...LOOK_KINDS.map((kind) => [`tone ${kind}`, { look: { kind, strength: 0.8, levels: 0.7 } }] as const),
    ["border", { edge: { kind: "border", colour: "#f3e9d4", width: 0.012 } }],
    ["mat", { edge: { kind: "mat", colour: "#f3e9d4", width: 0.07 } }],
    ...OVERLAY_KINDS.map((kind) => [`overlay ${kind}`, { overlay: { kind, strength: 0.8 } }] as const),
    ["graphic", { graphic }],
  ];
  const frames = styles.map(([name, style], i): NamedFrame => {
    const film = plan({ ...show, style: { ...show.style, ...style } });
    const slot = itemAt(film.slots, 6 + i);
    // Every other one in the middle of its transition, where two scenes are laid over each other.
    const { startFrame, endFrame } = slot.transitionIn;
    const frame = i % 2 === 0 ? endFrame + 6 : Math.round((startFrame + endFrame) / 2);
    return { name: `${name}, ${shape}`, plan: planFrame(film, frame) };
  });
  for (const [i, kind] of LAYOUT_KINDS.entries()) {
    const ids = show.slides
      .filter(hasPicture)
      .slice(8, 10 + i)
      .map(({ id }) => id);
    const gathered = changeSlides(gatherOnSlide(show, new Set(ids)), new Set([itemAt(ids, 0)]), {
      layout: { ...FIRST_LAYOUT, kind, gap: 0.02 },
    });
    const film = plan(gathered);
    const slot = present(film.slots.find(({ slideId }) => slideId === ids[0]));
    frames.push({
      name: `layout ${kind} of ${ids.length}, ${shape}`,
      plan: planFrame(film, (itemAt(slot.beside, 0).enters?.startFrame ?? slot.startFrame) + 2),
    });
  }
  return frames;
}

/** A ring with a clear ground. */
function ornamentPng(): Promise<Buffer> {
  const raw = { width: 400, height: 300, channels: 4 } as const;
  const pixels = Buffer.alloc(raw.width * raw.height * raw.channels);
  for (let at = 0; at < raw.width * raw.height; at++) {
    const off = Math.abs(Math.hypot((at % raw.width) - 200, Math.floor(at / raw.width) - 150) - 110);
    pixels.set([0xff, 0xd2, 0x7a, 255 * Math.max(0, Math.min(1, 13.5 - off))], 4 * at);
  }
  return sharp(pixels, { raw }).png().toBuffer();
}

async function drawnByPage(page: Page, plans: readonly FramePlan[]): Promise<Uint8Array[]> {
  const texts = await page.evaluate(
    (frames) => (globalThis as unknown as { drawInPage: (plans: unknown) => Promise<string[]> }).drawInPage(frames),
    plans,
  );
  return texts.map((text) => Buffer.from(text, "base64"));
}

/**
 * The frames to compare and where their images lie. The folder belongs to one program at a time, so
 * the server is away meanwhile.
 */
async function prepared(): Promise<{ frames: ReturnType<typeof framesToCompare>; pathOfImage: PathOfImage }> {
  const [first] = await showsOf(app);
  await app.kill();
  const studio = await openStudio(path.join(app.folder, "data"));
  try {
    const { document } = await studio.shows.get(present(first).id);
    const facts = await studio.library.filmFacts(document);
    const ornament = await studio.library.takeIn(Readable.from([await ornamentPng()]), "ornament.png");
    if (ornament.kind !== "picture") throw new Error("the ornament is a picture");
    await studio.library.ensureGraphic(ornament.sha256);
    const seen: typeof facts.seen = (sha256) => (sha256 === ornament.sha256 ? ornament : facts.seen(sha256));
    const frames = framesToCompare(document, (show) => planFilm(show, { ...facts, seen }), ornament.sha256);
    const { store } = studio.library;
    return { frames, pathOfImage: (picture, of) => drawnFile(store, picture, of) };
  } finally {
    await studio.close();
    await app.restart();
  }
}

const LEAST_DECIBELS = 40;
/**
 * The edge of a moving picture lies between pixels, and the two canvases round it their own way.
 * Over another picture that is seen most: 39.2 dB in the worst of 40 frames, 45 in the usual one.
 */
const LEAST_OVER_PICTURE_DECIBELS = 39;

test("the page draws what the export draws, to 40 dB and better", async ({ page }) => {
  const { frames, pathOfImage } = await prepared();
  await page.goto(app.address);
  await page.addScriptTag({ type: "module", content: await pageScript() });
  await page.waitForFunction(() => "drawInPage" in globalThis);
  const cache = new PictureCache(pathOfImage);
  const painters = new Map<number, FramePainter>();
  for (const { name, plan } of frames) {
    const [inPage] = await drawnByPage(page, [plan]);
    const painter = painters.get(plan.size.width) ?? new FramePainter(plan.size, pathOfImage, new ClipFrames(() => ""));
    painters.set(plan.size.width, painter);
    const still = psnr(present(inPage), await drawStill(plan, cache));
    const video = psnrOfVideo(present(inPage), await painter.paint(plan, imagesIn(plan)), plan.size);
    if (process.env["SAY_PARITY"]) console.log(`${still.toFixed(1)} dB, as video ${video.toFixed(1)} dB  ${name}`);
    const least = name.startsWith("fill picture") ? LEAST_OVER_PICTURE_DECIBELS : LEAST_DECIBELS;
    expect(still, name).toBeGreaterThanOrEqual(least);
    expect(video, name).toBeGreaterThanOrEqual(least);
  }
});

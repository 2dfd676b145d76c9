import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { type FilmPlan, filmFacts, planFilm, type SeenMedia } from "@humming-tide/core/film";
import { type FramePlan, newTransition, planFrame } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import {
  changeStyle,
  FIRST_LAYOUT,
  FIRST_STYLE,
  gatherOnSlide,
  LAYOUT_KINDS,
  LOOK_KINDS,
  newShowDocument,
  newShowSong,
  newSlide,
  newWords,
  OVERLAY_KINDS,
  type ShowDocument,
  type StyleWishes,
  TITLE_SETS,
  VARIED_KINDS,
  WORD_KINDS,
} from "@humming-tide/core/show";
import { steadySong } from "@humming-tide/core/testing";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { writeGraphic, writePictureFiles } from "../../media/picture-files.ts";
import { temporaryFolder } from "../../testing/index.ts";
import { drawStill } from "./draw-still.ts";
import { PictureCache } from "./picture-cache.ts";

/**
 * What frames look like, kept as a picture: every transition, fill, tone, border, overlay, layout
 * and kind of words, from pictures that are made here. Whoever changes the look on purpose deletes
 * the golden file, runs this test once, looks at the new picture and commits it.
 */
const GOLDEN = path.join(import.meta.dirname, "golden", "frames.png");
const SIZE = { width: 192, height: 108 };
const COLUMNS = 8;
/** Other processors round a few code values differently. */
const LEAST_DECIBELS = 45;

const hash = (digit: number): string => String(digit).repeat(64);
const PICTURES: readonly {
  readonly digit: number;
  readonly width: number;
  readonly height: number;
  readonly svg: string;
}[] = [
  {
    digit: 1,
    width: 480,
    height: 270,
    svg: `<rect width="480" height="270" fill="#e9a25b"/><rect y="150" width="480" height="120" fill="#3f6f7c"/><circle cx="330" cy="120" r="60" fill="#fbe9b8"/><path d="M60 200h180l-30 40H90z" fill="#5a3b34"/>`,
  },
  {
    digit: 2,
    width: 240,
    height: 360,
    svg: `<rect width="240" height="360" fill="#25384f"/><circle cx="120" cy="130" r="70" fill="#e2734f"/><path d="M0 300h240v60H0z" fill="#8fd3c8"/>`,
  },
  {
    digit: 3,
    width: 400,
    height: 400,
    svg: `<rect width="400" height="400" fill="#b79be0"/><path d="M40 340 200 60 360 340z" fill="#fffaf0"/><path d="M160 200h80v140h-80z" fill="#2d6a6a"/>`,
  },
];
const ORNAMENT = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><circle cx="150" cy="100" r="80" fill="none" stroke="#ffd27a" stroke-width="24"/></svg>`;

let place: Awaited<ReturnType<typeof temporaryFolder>>;
const seen: Record<string, SeenMedia> = { [hash(8)]: { width: 300, height: 200 }, [hash(9)]: { width: 1, height: 1 } };

/** What intake refuses, and what the pictures of this test are drawn as. */
const SVG = { operation: ["VipsForeignLoadSvg"] };

beforeAll(async () => {
  place = await temporaryFolder();
  sharp.unblock(SVG);
  for (const { digit, width, height, svg } of PICTURES) {
    const folder = path.join(place.folder, hash(digit));
    await mkdir(folder, { recursive: true });
    const whole = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${svg}</svg>`;
    const { subject } = await writePictureFiles(sharp(Buffer.from(whole)), folder);
    seen[hash(digit)] = { width, height, subject };
  }
  const ornament = path.join(place.folder, "ornament.svg");
  await writeFile(ornament, ORNAMENT);
  await writeGraphic(ornament, place.folder);
});
afterAll(async () => {
  sharp.block(SVG);
  await place.remove();
});

const song = steadySong(40);
const base: ShowDocument = {
  ...newShowDocument("Regatta"),
  size: SIZE,
  slides: Array.from({ length: 12 }, (_, i) =>
    newSlide({ id: `s${i}`, sha256: hash(1 + (i % 3)), fileName: `${i}.jpg` }),
  ),
  songs: [newShowSong({ id: "song 1", sha256: hash(9), fileName: "song.wav" })],
};
const planOf = (show: ShowDocument): FilmPlan =>
  planFilm(
    show,
    filmFacts(
      () => song,
      (sha256) => seen[sha256],
    ),
  );
const styled = (wishes: Partial<StyleWishes>, show = base): FilmPlan =>
  planOf(changeStyle(show, { kind: "show" }, wishes));

/** A frame of a slot: so much of the way through its transition, or beyond it. */
const frameOf = (plan: FilmPlan, slot: number, share: number): FramePlan => {
  const { startFrame, endFrame } = itemAt(plan.slots, slot).transitionIn;
  return planFrame(plan, Math.round(startFrame + share * (endFrame - startFrame)));
};

function frames(): FramePlan[] {
  const length = { unit: "seconds", count: 2 } as const;
  const graphic = {
    kind: "own",
    sha256: hash(8),
    fileName: "ornament.png",
    place: "top-right",
    size: 0.4,
    opacity: 1,
  } as const;
  const letters = { ...FIRST_STYLE.letters, fade: null };
  const worded = (i: number): ShowDocument => ({
    ...base,
    slides: base.slides.map((slide) => ({
      ...slide,
      caption: "At the quay 🏮",
      words: [{ ...newWords(itemAt(WORD_KINDS, i), "Firefly\nfirst across"), size: 1.4 }],
    })),
  });
  return [
    ...VARIED_KINDS.flatMap((kind, i) =>
      [0.35, 0.7].map((share) => frameOf(styled({ transition: newTransition(kind, length) }), 1 + i, share)),
    ),
    ...(
      [
        { kind: "blur" },
        { kind: "colour", colour: "#204050" },
        { kind: "crop" },
        { kind: "picture", sha256: hash(1) },
      ] as const
    ).map((fill) => frameOf(styled({ fill }), 1, 1.5)),
    frameOf(
      styled(
        { fill: { kind: "neighbours" } },
        { ...base, slides: base.slides.map((slide, i) => ({ ...slide, sha256: hash(i < 5 ? 2 : 1) })) },
      ),
      2,
      1.5,
    ),
    ...LOOK_KINDS.map((kind) => frameOf(styled({ look: { kind, strength: 1, levels: 0.6 } }), 3, 1.5)),
    frameOf(styled({ edge: { kind: "border", colour: "#ffffff", width: 0.03 } }), 2, 1.5),
    frameOf(styled({ edge: { kind: "mat", colour: "#f3e9d4", width: 0.08 } }), 2, 1.5),
    ...OVERLAY_KINDS.slice(1).map((kind) => frameOf(styled({ overlay: { kind, strength: 1 } }), 3, 1.5)),
    frameOf(styled({ graphic }), 3, 1.5),
    ...LAYOUT_KINDS.map((kind, i) => {
      const ids = base.slides.slice(0, 2 + i).map(({ id }) => id);
      const gathered = gatherOnSlide(base, new Set(ids));
      const slides = gathered.slides.map((slide) => ({
        ...slide,
        layout: { ...FIRST_LAYOUT, kind, gap: 0.03, onBeats: false },
      }));
      return planFrame(planOf({ ...gathered, slides }), 20);
    }),
    ...WORD_KINDS.map((_, i) =>
      frameOf(
        styled(
          {
            letters: {
              ...letters,
              titleSet: null,
              font: itemAt(["Cinzel", "Great Vibes", "Oswald", "Playfair Display", "Montserrat"] as const, i),
            },
          },
          worded(i),
        ),
        3 + i,
        1.8,
      ),
    ),
    ...TITLE_SETS.map((titleSet) => frameOf(styled({ letters: { ...letters, titleSet } }, worded(0)), 4, 1.8)),
  ];
}

it("frames look as they did", async () => {
  const cache = new PictureCache((picture, of) =>
    of === "graphic"
      ? path.join(place.folder, "graphic.png")
      : path.join(place.folder, picture, of === "fill" ? "fill.jpg" : "working.jpg"),
  );
  const plans = frames();
  const rows = Math.ceil(plans.length / COLUMNS);
  const sheet = Buffer.alloc(3 * SIZE.width * COLUMNS * SIZE.height * rows);
  const stride = 3 * SIZE.width * COLUMNS;
  for (const [i, plan] of plans.entries()) {
    const pixels = await drawStill(plan, cache);
    const [left, top] = [(i % COLUMNS) * SIZE.width, Math.floor(i / COLUMNS) * SIZE.height];
    for (let y = 0; y < SIZE.height; y++)
      for (let x = 0; x < SIZE.width; x++)
        for (let channel = 0; channel < 3; channel++)
          sheet[(top + y) * stride + 3 * (left + x) + channel] = itemAt(pixels, 4 * (y * SIZE.width + x) + channel);
  }
  const raw = { width: SIZE.width * COLUMNS, height: SIZE.height * rows, channels: 3 } as const;
  if (!process.env["CI"]) {
    await readFile(GOLDEN).catch(async () => {
      await mkdir(path.dirname(GOLDEN), { recursive: true });
      await sharp(sheet, { raw }).png({ compressionLevel: 9, palette: false }).toFile(GOLDEN);
    });
  }
  const golden = await sharp(GOLDEN).removeAlpha().raw().toBuffer();
  expect(golden.length).toBe(sheet.length);
  for (const i of plans.keys()) {
    const [left, top] = [(i % COLUMNS) * SIZE.width, Math.floor(i / COLUMNS) * SIZE.height];
    let sum = 0;
    for (let y = 0; y < SIZE.height; y++)
      for (let at = (top + y) * stride + 3 * left; at < (top + y) * stride + 3 * (left + SIZE.width); at++)
        sum += (itemAt(golden, at) - itemAt(sheet, at)) ** 2;
    const decibels = sum === 0 ? 100 : 10 * Math.log10((255 ** 2 * 3 * SIZE.width * SIZE.height) / sum);
    expect(decibels, `frame ${i + 1} of the golden picture`).toBeGreaterThanOrEqual(LEAST_DECIBELS);
  }
}, 120_000);

import { itemAt } from "@humming-tide/core/presence";
import { Random } from "../random.ts";
import { Painter } from "./painter.ts";
import { AFTERNOON, DUSK, GOLDEN, type Hour, NIGHT } from "./palette.ts";
import { crews, dance, fireworks, lanterns, painting, prize, race, type Scene } from "./scenes.ts";

interface Chapter {
  /** Part of the files' names. */
  readonly name: string;
  /** Name of its passage. */
  readonly title: string;
  readonly scene: Scene;
  readonly hour: Hour;
  readonly count: number;
  /** Minutes after noon of the first picture, and minutes between pictures. */
  readonly startMinute: number;
  readonly stepMinutes: number;
}

const CHAPTERS: readonly Chapter[] = [
  {
    name: "painting",
    title: "Painting the boats",
    scene: painting,
    hour: AFTERNOON,
    count: 8,
    startMinute: 95,
    stepMinutes: 9,
  },
  { name: "crews", title: "The crews", scene: crews, hour: GOLDEN, count: 8, startMinute: 330, stepMinutes: 4 },
  { name: "lanterns", title: "Lanterns lit", scene: lanterns, hour: DUSK, count: 10, startMinute: 468, stepMinutes: 3 },
  { name: "race", title: "The race", scene: race, hour: DUSK, count: 10, startMinute: 520, stepMinutes: 2 },
  { name: "prize", title: "The prize", scene: prize, hour: NIGHT, count: 5, startMinute: 560, stepMinutes: 3 },
  { name: "dance", title: "Dance on the quay", scene: dance, hour: NIGHT, count: 10, startMinute: 590, stepMinutes: 4 },
  { name: "fireworks", title: "Fireworks", scene: fireworks, hour: NIGHT, count: 9, startMinute: 660, stepMinutes: 1 },
];

/**
 * Mostly 3:2 as cameras give them, some portraits, a few 4:3 from phones, squares and one panorama.
 */
const SHAPES: readonly (readonly [width: number, height: number])[] = [
  [1620, 1080],
  [1620, 1080],
  [1080, 1620],
  [1620, 1080],
  [1440, 1080],
  [1620, 1080],
  [1080, 1620],
  [1280, 1280],
];
const PANORAMA = [2400, 960] as const;

export interface AlbumPicture {
  readonly fileName: string;
  readonly width: number;
  readonly height: number;
  /** Exif orientation, 1 to 8: how the stored pixels must be turned to be seen as painted. */
  readonly orientation: 1 | 3 | 6 | 8;
  /** "2031:06:21 19:04:11", as Exif writes it, by the camera's own clock. */
  readonly capturedAt: string;
  readonly camera: DemoCamera;
  /** Name of the passage that it belongs to. */
  readonly chapter: string;
  paint(): Painter;
}

/**
 * Invented cameras. The second one's clock is an hour fast: nobody set it to the harbour's time.
 */
export const CAMERAS = [
  { make: "Lanternworks", model: "Quay One", fastMinutes: 0 },
  { make: "Harbour", model: "Pocket 3", fastMinutes: 60 },
] as const;
type DemoCamera = (typeof CAMERAS)[number];

/**
 * The closing night of the lantern regatta: 60 pictures, the same for the same seed. Nothing is
 * painted until it is asked for.
 */
export function album(seed: number): AlbumPicture[] {
  const pictures: AlbumPicture[] = [];
  for (const chapter of CHAPTERS) {
    for (let take = 0; take < chapter.count; take++) {
      const index = pictures.length;
      const [width, height] =
        chapter.name === "race" && take === 4
          ? PANORAMA
          : itemAt(SHAPES, (index * 3 + Math.floor(index / 3)) % SHAPES.length);
      // The 4:3 pictures are a phone's.
      const camera = width * 3 === height * 4 ? CAMERAS[1] : CAMERAS[0];
      const minute = 12 * 60 + chapter.startMinute + take * chapter.stepMinutes + camera.fastMinutes;
      const two = (value: number): string => String(value).padStart(2, "0");
      pictures.push({
        fileName: `${two(index + 1)} ${chapter.name} ${take + 1}.jpg`,
        width,
        height,
        orientation: height > width ? (index % 2 ? 6 : 8) : index % 17 === 5 ? 3 : 1,
        capturedAt: `2031:06:${21 + Math.floor(minute / 1440)} ${two(Math.floor(minute / 60) % 24)}:${two(minute % 60)}:${two((index * 7) % 60)}`,
        camera,
        chapter: chapter.title,
        paint() {
          const painter = new Painter(width, height, chapter.hour, new Random(seed * 1000 + index));
          chapter.scene(painter, take);
          painter.finish();
          return painter;
        },
      });
    }
  }
  return pictures;
}

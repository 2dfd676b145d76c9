import { Random } from "../random.ts";
import { Painter } from "./painter.ts";
import { AFTERNOON, DUSK, GOLDEN, type Hour, NIGHT } from "./palette.ts";
import { crews, dance, fireworks, lanterns, painting, prize, race, type Scene } from "./scenes.ts";

interface Chapter {
  readonly name: string;
  readonly scene: Scene;
  readonly hour: Hour;
  readonly count: number;
  /** Minutes after noon of the first picture, and minutes between pictures. */
  readonly startMinute: number;
  readonly stepMinutes: number;
}

const CHAPTERS: readonly Chapter[] = [
  { name: "painting", scene: painting, hour: AFTERNOON, count: 8, startMinute: 95, stepMinutes: 9 },
  { name: "crews", scene: crews, hour: GOLDEN, count: 8, startMinute: 330, stepMinutes: 4 },
  { name: "lanterns", scene: lanterns, hour: DUSK, count: 10, startMinute: 468, stepMinutes: 3 },
  { name: "race", scene: race, hour: DUSK, count: 10, startMinute: 520, stepMinutes: 2 },
  { name: "prize", scene: prize, hour: NIGHT, count: 5, startMinute: 560, stepMinutes: 3 },
  { name: "dance", scene: dance, hour: NIGHT, count: 10, startMinute: 590, stepMinutes: 4 },
  { name: "fireworks", scene: fireworks, hour: NIGHT, count: 9, startMinute: 660, stepMinutes: 1 },
];

/** Mostly 3:2 as cameras give them, some portraits, a few 4:3 from phones, squares and one panorama. */
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
  /** "2031:06:21 19:04:11", as Exif writes it. */
  readonly capturedAt: string;
  paint(): Painter;
}

/** The closing night of the lantern regatta: 60 pictures, the same for the same seed. Nothing is painted until it is asked for. */
export function album(seed: number): AlbumPicture[] {
  const pictures: AlbumPicture[] = [];
  for (const chapter of CHAPTERS) {
    for (let take = 0; take < chapter.count; take++) {
      const index = pictures.length;
      const [width, height] =
        chapter.name === "race" && take === 4 ? PANORAMA : SHAPES[(index * 3 + Math.floor(index / 3)) % SHAPES.length]!;
      const minute = 12 * 60 + chapter.startMinute + take * chapter.stepMinutes;
      const two = (value: number): string => String(value).padStart(2, "0");
      pictures.push({
        fileName: `${two(index + 1)} ${chapter.name} ${take + 1}.jpg`,
        width,
        height,
        orientation: height > width ? (index % 2 ? 6 : 8) : index % 17 === 5 ? 3 : 1,
        capturedAt: `2031:06:21 ${two(Math.floor(minute / 60))}:${two(minute % 60)}:${two((index * 7) % 60)}`,
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

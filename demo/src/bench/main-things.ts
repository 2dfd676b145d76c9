import type { Rectangle } from "@humming-tide/core/picture";

/** In hundredths of the picture's width and height: left, top, right, bottom. */
type Edges = readonly [left: number, top: number, right: number, bottom: number];

/**
 * What somebody would name first in photographs without people, drawn by hand by the grid of a
 * tenth; where there are several, each is right. Views and patterns without a main thing are left
 * out.
 */
const THINGS: Readonly<Record<string, readonly Edges[]>> = {
  "kphotoalbum/donna.jpg": [[39, 32, 59, 74]],
  "kphotoalbum/donna_2.jpg": [[35, 0, 76, 98]],
  "kphotoalbum/skagen_2.jpg": [[13, 44, 100, 98]],
  "kphotoalbum/snow.jpg": [[37, 22, 76, 43]],
  "kphotoalbum/spiff.jpg": [[27, 13, 68, 99]],
  "kphotoalbum/spiff_2.jpg": [[32, 25, 60, 56]],
  "kphotoalbum/sunset.jpg": [[25, 40, 66, 60]],
  "dlib/dogs.jpg": [
    [5, 0, 45, 48],
    [55, 8, 95, 48],
    [12, 58, 47, 98],
    [53, 52, 95, 98],
  ],
  "labelme/2011_000025.jpg": [[18, 6, 85, 98]],
  "opencv/aloeL.jpg": [[28, 0, 95, 98]],
  "opencv/apple.jpg": [[8, 10, 91, 98]],
  "opencv/baboon.jpg": [[20, 5, 78, 98]],
  "opencv/building.jpg": [[18, 5, 100, 92]],
  "opencv/butterfly.jpg": [[2, 22, 98, 88]],
  "opencv/fruits.jpg": [[15, 10, 68, 98]],
  "opencv/home.jpg": [
    [45, 35, 100, 98],
    [70, 4, 97, 40],
  ],
  "opencv/left03.jpg": [[22, 5, 100, 95]],
  "opencv/left12.jpg": [[23, 8, 80, 94]],
  "opencv/squirrel_cls.jpg": [[24, 27, 68, 85]],
  "darknet/dog.jpg": [
    [17, 38, 42, 94],
    [17, 24, 73, 73],
  ],
  "darknet/eagle.jpg": [[18, 17, 78, 87]],
  "darknet/giraffe.jpg": [[33, 7, 88, 90]],
  "darknet/horses.jpg": [[0, 36, 77, 80]],
  "scratch/atom-playground.jpg": [
    [5, 2, 37, 63],
    [50, 0, 100, 77],
  ],
  "scratch/bench-with-view.jpg": [
    [8, 78, 93, 98],
    [28, 33, 100, 55],
  ],
  "scratch/brick-wall-and-stairs.jpg": [[53, 20, 100, 76]],
  "scratch/building-at-mit.jpg": [[4, 8, 98, 57]],
  "scratch/building-fireproof.jpg": [
    [52, 56, 71, 83],
    [15, 10, 98, 22],
  ],
  "scratch/castle.jpg": [[10, 10, 92, 82]],
  "scratch/city-with-water.jpg": [[5, 17, 80, 58]],
  "scratch/city-with-water2.jpg": [[2, 27, 100, 56]],
  "scratch/driveway.jpg": [[21, 33, 73, 57]],
  "scratch/hallway_outdoors.jpg": [[50, 36, 66, 55]],
  "scratch/hay_field.jpg": [[0, 55, 92, 78]],
  "scratch/houses.jpg": [[50, 13, 100, 87]],
  "scratch/mansion.jpg": [[0, 17, 100, 70]],
  "scratch/parking-ramp.jpg": [[5, 5, 92, 44]],
  "scratch/pool.jpg": [[0, 35, 100, 98]],
  "scratch/route66.jpg": [[1, 23, 15, 45]],
  "scratch/school2.jpg": [[22, 12, 78, 66]],
  "scratch/silos.jpg": [[22, 29, 75, 74]],
  "scratch/the-movies.jpg": [[12, 8, 75, 50]],
  "scratch/train-tracks1.jpg": [[15, 52, 98, 98]],
  "scratch/train-tracks2.jpg": [[30, 13, 80, 98]],
  "scratch/village.jpg": [[0, 48, 42, 86]],
  "scratch/wooden-house.jpg": [[6, 13, 100, 75]],
};

/** A photograph and its main things, in shares of it. */
export interface NamedThings {
  /** Below the folder that scripts/fetch-photographs.mjs fills: package and file. */
  readonly name: string;
  readonly things: readonly Rectangle[];
}

export const MAIN_THINGS: readonly NamedThings[] = Object.entries(THINGS).map(([name, things]) => ({
  name,
  things: things.map(([left, top, right, bottom]) => ({
    x: left / 100,
    y: top / 100,
    width: (right - left) / 100,
    height: (bottom - top) / 100,
  })),
}));

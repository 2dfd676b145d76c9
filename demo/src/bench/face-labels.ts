import type { Rectangle } from "@humming-tide/core/picture";

/** In hundredths of the picture's width and height: left, top, right, bottom. */
type Edges = readonly [left: number, top: number, right: number, bottom: number];

/** A photograph with the heads that a person sees in it, hair and hats included. */
export interface LabelledPhotograph {
  /** Below the folder that scripts/fetch-photographs.mjs fills: package and file. */
  readonly name: string;
  readonly heads: readonly Rectangle[];
  /** People in the background or seen from behind: found or not, cut or not, both are right. */
  readonly either: readonly Rectangle[];
  /** Indices of heads whose eyes are closed, and of those about which nobody can say. */
  readonly closedEyes: ReadonlySet<number>;
  readonly unclearEyes: ReadonlySet<number>;
}

/** Boxes drawn by hand, by the grid of a tenth, to about a hundredth. */
const HEADS: Readonly<Record<string, readonly Edges[]>> = {
  "kphotoalbum/anne_helene.jpg": [[24, 17, 59, 42]],
  "kphotoalbum/bar55.jpg": [
    [31, 29, 49, 61],
    [43, 14, 59, 49],
  ],
  "kphotoalbum/bar55_2.jpg": [
    [29, 12, 49, 49],
    [47, 4, 64.5, 42],
  ],
  "kphotoalbum/blackie.jpg": [],
  "kphotoalbum/cold_water.jpg": [[54, 30, 61, 45]],
  "kphotoalbum/donna.jpg": [],
  "kphotoalbum/donna_2.jpg": [],
  "kphotoalbum/grand_canyon_1.jpg": [
    [48, 45, 60, 73],
    [75, 62, 85, 85],
  ],
  "kphotoalbum/grand_canyon_2.jpg": [[43, 34, 52.5, 55]],
  "kphotoalbum/grand_canyon_3.jpg": [],
  "kphotoalbum/jesper.jpg": [[19, 0, 91, 98]],
  "kphotoalbum/jesper_2.jpg": [[29, 0, 71, 81]],
  "kphotoalbum/new_wave_1.jpg": [[14.5, 17, 40, 43]],
  "kphotoalbum/new_wave_2.jpg": [[34, 0, 68, 85]],
  "kphotoalbum/pool.jpg": [[35, 18, 46.5, 35.5]],
  "kphotoalbum/pool_2.jpg": [[83, 35, 96.5, 49]],
  "kphotoalbum/qt-logo.jpg": [
    [15, 0, 37, 45],
    [42, 1, 61, 46],
    [69, 0, 89.5, 37],
  ],
  "kphotoalbum/skagen.jpg": [],
  "kphotoalbum/skagen_2.jpg": [],
  "kphotoalbum/snow.jpg": [],
  "kphotoalbum/spiff.jpg": [],
  "kphotoalbum/spiff_2.jpg": [],
  "kphotoalbum/sunset.jpg": [],
  "kphotoalbum/wayne.jpg": [
    [33, 11, 40.5, 21.5],
    [30.5, 61, 40.5, 74.5],
  ],
  "dlib/2007_007763.jpg": [
    [78, 19, 90, 37.5],
    [63, 59.5, 72.5, 76],
    [32, 27.5, 38.5, 41.5],
    [19, 47.5, 27, 63],
    [35.5, 54, 43.5, 68],
    [59.5, 18, 68, 34],
    [40, 21, 47, 35.5],
  ],
  "dlib/2008_001009.jpg": [
    [40, 14, 61, 35],
    [34, 37, 65, 65],
  ],
  "dlib/2008_001322.jpg": [
    [20.5, 36, 36.5, 66.5],
    [45.5, 49, 60.5, 77],
    [69.5, 33.5, 90.5, 68.5],
  ],
  "dlib/2008_002079.jpg": [
    [7, 45, 16.5, 65.5],
    [12, 32.5, 19.5, 46.5],
    [24, 33.5, 31, 46],
    [67.5, 30, 77.5, 46.5],
    [81.5, 42, 89.5, 55.5],
    [88, 39, 99, 60.5],
  ],
  "dlib/2008_002470.jpg": [
    [10, 41, 20.5, 62],
    [55, 46, 66.5, 71],
    [65, 10, 75.5, 31.5],
    [30, 48, 37.5, 62],
    [47, 16.5, 55.5, 35],
    [36, 21.5, 44, 38],
  ],
  "dlib/2008_002506.jpg": [
    [22.5, 4, 43, 44],
    [44, 10, 62.5, 52.5],
    [67, 13, 89, 52.5],
  ],
  "dlib/2008_004176.jpg": [
    [21, 13, 30.5, 29],
    [33.5, 23, 41.5, 36],
    [40, 13.5, 47.5, 27],
    [46, 16, 55.5, 31.5],
    [59, 20, 67.5, 32],
    [68, 13, 76.5, 27.5],
    [42, 48, 51, 62.5],
  ],
  "dlib/2008_007676.jpg": [
    [20, 35, 32.5, 59],
    [44, 13.5, 53, 31],
    [38, 29.5, 48.5, 49.5],
    [52, 32, 60.5, 51.5],
    [72.5, 34, 82, 52.5],
    [63, 31, 71, 48],
    [26, 20.5, 36.5, 39],
  ],
  "dlib/2009_004587.jpg": [
    [35, 2.5, 57, 27],
    [65, 50.5, 83.5, 69.5],
  ],
  "dlib/dogs.jpg": [],
  "face-api/sample1.jpg": [
    [20, 18.5, 33.5, 47.5],
    [40, 25, 56, 53],
    [75.5, 12.5, 90.5, 34.5],
  ],
  "face-api/sample2.jpg": [
    [18, 2, 34.5, 32],
    [44, 6, 58.5, 34.5],
    [73, 2, 89.5, 30],
  ],
  "face-api/sample3.jpg": [
    [28, 18.5, 47, 47],
    [54, 5, 71.5, 38.5],
    [75.5, 17.5, 89.5, 43.5],
  ],
  "face-api/sample4.jpg": [
    [11, 6, 26, 32.5],
    [33, 1, 48, 23],
    [50, 5.5, 62, 30],
    [63.5, 6.5, 77, 28.5],
  ],
  "face-api/sample5.jpg": [
    [30, 26, 41, 48.5],
    [71.5, 19.5, 85.5, 49],
    [39.5, 2.5, 50, 25.5],
    [57, 11, 67.5, 32],
    [18.5, 57.5, 31.5, 84.5],
  ],
  "face-api/sample6.jpg": [
    [9, 25, 25.5, 50.5],
    [34, 15.5, 47.5, 41.5],
    [59.5, 11, 73.5, 40],
    [75, 10, 89.5, 37.5],
  ],
  "labelme/2011_000003.jpg": [
    [45.5, 33.5, 53, 53.5],
    [92, 25.5, 100, 45.5],
  ],
  "labelme/2011_000006.jpg": [
    [38.5, 30, 46, 43.5],
    [48, 29.5, 56, 42.5],
    [60.5, 30.5, 68, 44],
  ],
  "labelme/2011_000025.jpg": [],
  "opencv/aero1.jpg": [],
  "opencv/aloeL.jpg": [],
  "opencv/apple.jpg": [],
  "opencv/baboon.jpg": [],
  "opencv/board.jpg": [],
  "opencv/building.jpg": [],
  "opencv/butterfly.jpg": [],
  "opencv/fruits.jpg": [],
  "opencv/home.jpg": [],
  "opencv/left03.jpg": [],
  "opencv/left12.jpg": [],
  "opencv/squirrel_cls.jpg": [],
  "darknet/dog.jpg": [],
  "darknet/eagle.jpg": [],
  "darknet/giraffe.jpg": [],
  "darknet/horses.jpg": [],
  "scratch/atom-playground.jpg": [],
  "scratch/bench-with-view.jpg": [],
  "scratch/boardwalk.jpg": [],
  "scratch/brick-wall-and-stairs.jpg": [],
  "scratch/brick-wall1.jpg": [],
  "scratch/building-at-mit.jpg": [],
  "scratch/building-fireproof.jpg": [],
  "scratch/castle.jpg": [],
  "scratch/city-with-water.jpg": [],
  "scratch/city-with-water2.jpg": [],
  "scratch/driveway.jpg": [],
  "scratch/hallway_outdoors.jpg": [],
  "scratch/hay_field.jpg": [],
  "scratch/houses.jpg": [],
  "scratch/mansion.jpg": [],
  "scratch/parking-ramp.jpg": [],
  "scratch/pool.jpg": [],
  "scratch/route66.jpg": [],
  "scratch/school2.jpg": [],
  "scratch/silos.jpg": [],
  "scratch/the-movies.jpg": [],
  "scratch/train-tracks1.jpg": [],
  "scratch/train-tracks2.jpg": [],
  "scratch/village.jpg": [],
  "scratch/wooden-house.jpg": [],
};

const EITHER: Readonly<Record<string, readonly Edges[]>> = {
  "kphotoalbum/anne_helene.jpg": [[14, 15, 21, 30]],
  "kphotoalbum/bar55.jpg": [
    [0, 20, 9, 41],
    [18, 33, 23, 41],
    [14, 40, 21, 51],
    [69, 3, 80, 23],
  ],
  "kphotoalbum/cold_water.jpg": [
    [15, 38, 25, 53],
    [27, 40, 33, 49],
    [0, 40, 7, 60],
    [33, 40, 53, 50],
  ],
  "kphotoalbum/new_wave_2.jpg": [
    [0, 20, 30, 60],
    [67, 18, 77, 36],
  ],
  "kphotoalbum/pool.jpg": [[67, 15, 75, 28]],
  "dlib/2008_002079.jpg": [[50, 10, 80, 34]],
  "dlib/2008_004176.jpg": [[5, 0, 90, 14]],
  "labelme/2011_000006.jpg": [
    [68, 20, 76, 30],
    [82, 18, 96, 32],
  ],
};

/**
 * Heads whose eyes are closed, and those that wear dark glasses, are too dark or too far turned.
 */
const CLOSED_EYES: Readonly<Record<string, readonly number[]>> = {
  "kphotoalbum/bar55.jpg": [1],
  "kphotoalbum/grand_canyon_2.jpg": [0],
  "dlib/2008_001009.jpg": [0],
  "dlib/2008_004176.jpg": [1],
  "dlib/2008_007676.jpg": [1, 2, 3],
  "face-api/sample1.jpg": [1],
  "face-api/sample2.jpg": [1, 2],
  "face-api/sample4.jpg": [2, 3],
};
const UNCLEAR_EYES: Readonly<Record<string, readonly number[]>> = {
  "kphotoalbum/anne_helene.jpg": [0],
  "kphotoalbum/new_wave_1.jpg": [0],
  "dlib/2007_007763.jpg": [0, 1, 5],
  "dlib/2008_002470.jpg": [3],
  "dlib/2008_004176.jpg": [5],
  "labelme/2011_000003.jpg": [0],
};

const asRectangle = ([left, top, right, bottom]: Edges): Rectangle => ({
  x: left / 100,
  y: top / 100,
  width: (right - left) / 100,
  height: (bottom - top) / 100,
});

export const PHOTOGRAPHS: readonly LabelledPhotograph[] = Object.entries(HEADS).map(([name, heads]) => ({
  name,
  heads: heads.map(asRectangle),
  either: (EITHER[name] ?? []).map(asRectangle),
  closedEyes: new Set(CLOSED_EYES[name]),
  unclearEyes: new Set(UNCLEAR_EYES[name]),
}));

/** Red, green and blue light, 1 each: white. */
export type Light = readonly [red: number, green: number, blue: number];
export type Matrix = readonly [Light, Light, Light];

/** Where the primaries and the white of a standard lie: CIE 1931 x and y. */
interface Chromaticities {
  readonly red: readonly [number, number];
  readonly green: readonly [number, number];
  readonly blue: readonly [number, number];
}

const D65 = [0.3127, 0.329] as const;

/** By the names that ffmpeg gives them. ITU-R BT.709-6, BT.2020-2, and SMPTE EG 432-1 (P3, D65). */
const CHROMATICITIES = {
  bt709: { red: [0.64, 0.33], green: [0.3, 0.6], blue: [0.15, 0.06] },
  bt2020: { red: [0.708, 0.292], green: [0.17, 0.797], blue: [0.131, 0.046] },
  smpte432: { red: [0.68, 0.32], green: [0.265, 0.69], blue: [0.15, 0.06] },
} as const satisfies Readonly<Record<string, Chromaticities>>;
export type Primaries = keyof typeof CHROMATICITIES;

/** Whether a name is one of them. */
export const isPrimaries = (name: string): name is Primaries => Object.hasOwn(CHROMATICITIES, name);

/**
 * The matrix that brings light of one standard's primaries to those of BT.709, by rows. Less than 0
 * and more than 1 lie outside of what BT.709 shows.
 */
export const rowsToBt709 = (primaries: Primaries): Matrix =>
  product(inverse(toXyz(CHROMATICITIES.bt709)), toXyz(CHROMATICITIES[primaries]));

/** How much light each of the primaries gives: the middle row of the matrix to XYZ. */
export const luminanceShares = (primaries: Primaries): Light => toXyz(CHROMATICITIES[primaries])[1];

/** SMPTE RP 177: the primaries in such amounts that together they make the white. */
function toXyz({ red, green, blue }: Chromaticities): Matrix {
  const xyz = ([x, y]: readonly [number, number]): Light => [x / y, 1, (1 - x - y) / y];
  const columns = [xyz(red), xyz(green), xyz(blue)] as const;
  const plain = transposed(columns);
  const [r, g, b] = times(inverse(plain), xyz(D65));
  return plain.map((row) => [row[0] * r, row[1] * g, row[2] * b]) as unknown as Matrix;
}

const transposed = ([a, b, c]: Matrix): Matrix => [
  [a[0], b[0], c[0]],
  [a[1], b[1], c[1]],
  [a[2], b[2], c[2]],
];

const times = (matrix: Matrix, [a, b, c]: Light): Light => [
  matrix[0][0] * a + matrix[0][1] * b + matrix[0][2] * c,
  matrix[1][0] * a + matrix[1][1] * b + matrix[1][2] * c,
  matrix[2][0] * a + matrix[2][1] * b + matrix[2][2] * c,
];

function product(a: Matrix, b: Matrix): Matrix {
  const [x, y, z] = transposed(b);
  return transposed([times(a, x), times(a, y), times(a, z)]);
}

function inverse([a, b, c]: Matrix): Matrix {
  const cross = (p: Light, q: Light): Light => [
    p[1] * q[2] - p[2] * q[1],
    p[2] * q[0] - p[0] * q[2],
    p[0] * q[1] - p[1] * q[0],
  ];
  const [first, second, third] = [cross(b, c), cross(c, a), cross(a, b)];
  const determinant = a[0] * first[0] + a[1] * first[1] + a[2] * first[2];
  const scaled = (row: Light): Light => [row[0] / determinant, row[1] / determinant, row[2] / determinant];
  return transposed([scaled(first), scaled(second), scaled(third)]);
}

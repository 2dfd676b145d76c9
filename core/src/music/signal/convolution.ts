/**
 * A layer of a convolution in time. `outputs` is a multiple of 2; `weights` hold for each two
 * outputs taps * inputs pairs, so that they are read one after the other. Double precision:
 * rounding each sum to single precision takes twice the time.
 */
export interface NetworkLayer {
  readonly inputs: number;
  readonly outputs: number;
  readonly taps: number;
  /** Frames from tap to tap. */
  readonly dilation: number;
  readonly weights: Float64Array;
  readonly bias: Float64Array;
}

/** So many rows are summed at once. */
const ROWS = 4;

/**
 * Rows of `inputs` values to rows of `outputs`; what lies before the first and after the last row
 * counts as zero. Cost: inputs * taps * outputs multiplications a row. Four rows and two outputs
 * are summed at once, which is what a processor's registers hold.
 */
export function convolve(layer: NetworkLayer, input: Float32Array, rowCount: number): Float32Array {
  const { inputs, outputs, taps } = layer;
  const gathered = new Float64Array(inputs * taps * ROWS);
  const sums = new Float64Array(ROWS * outputs);
  const out = new Float32Array(rowCount * outputs);
  for (let row = 0; row < rowCount; row += ROWS) {
    for (let k = 0; k < ROWS; k++) gather(layer, input, rowCount, row + k, gathered, k);
    for (let output = 0; output < outputs; output += 2) sumTwoOutputs(layer, gathered, output, sums);
    const end = Math.min(ROWS, rowCount - row) * outputs;
    for (let i = 0; i < end; i++) out[row * outputs + i] = sums[i]!;
  }
  return out;
}

/** What the taps of a row see, as column `k` of the rows that are summed together. */
function gather(
  layer: NetworkLayer,
  input: Float32Array,
  rowCount: number,
  row: number,
  target: Float64Array,
  k: number,
): void {
  const { inputs, taps, dilation } = layer;
  for (let tap = 0; tap < taps; tap++) {
    const source = row + (tap - (taps - 1) / 2) * dilation;
    const isInside = source >= 0 && source < rowCount;
    const first = tap * inputs;
    for (let i = 0; i < inputs; i++) target[(first + i) * ROWS + k] = isInside ? input[source * inputs + i]! : 0;
  }
}

function sumTwoOutputs(
  { weights, bias, outputs }: NetworkLayer,
  gathered: Float64Array,
  output: number,
  sums: Float64Array,
): void {
  const length = gathered.length / ROWS;
  const [first, second] = [bias[output]!, bias[output + 1]!];
  let [a0, a1, a2, a3] = [first, first, first, first];
  let [b0, b1, b2, b3] = [second, second, second, second];
  let w = output * length;
  for (let x = 0; x < gathered.length; x += ROWS) {
    const a = weights[w]!;
    const b = weights[w + 1]!;
    w += 2;
    const x0 = gathered[x]!;
    const x1 = gathered[x + 1]!;
    const x2 = gathered[x + 2]!;
    const x3 = gathered[x + 3]!;
    a0 += a * x0;
    a1 += a * x1;
    a2 += a * x2;
    a3 += a * x3;
    b0 += b * x0;
    b1 += b * x1;
    b2 += b * x2;
    b3 += b * x3;
  }
  sums[output] = a0;
  sums[output + 1] = b0;
  sums[outputs + output] = a1;
  sums[outputs + output + 1] = b1;
  sums[2 * outputs + output] = a2;
  sums[2 * outputs + output + 1] = b2;
  sums[3 * outputs + output] = a3;
  sums[3 * outputs + output + 1] = b3;
}

/** Negative values become zero, in place. */
export function rectify(values: Float32Array): void {
  for (let i = 0; i < values.length; i++) if (values[i]! < 0) values[i] = 0;
}

/**
 * IEEE 754 half-precision numbers, little-endian. Infinity and not-a-number do not occur in
 * weights.
 */
export function halfPrecisionNumbers(bytes: Uint8Array): Float32Array {
  const numbers = new Float32Array(bytes.length >> 1);
  for (let i = 0; i < numbers.length; i++) {
    const bits = bytes[2 * i]! | (bytes[2 * i + 1]! << 8);
    const exponent = (bits >> 10) & 31;
    const fraction = bits & 1023;
    const value = exponent === 0 ? fraction * 2 ** -24 : (1 + fraction / 1024) * 2 ** (exponent - 15);
    numbers[i] = bits & 0x8000 ? -value : value;
  }
  return numbers;
}

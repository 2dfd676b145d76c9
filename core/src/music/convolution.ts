/**
 * A layer of a convolution in time. `outputs` is a multiple of 4; `weights` hold for each four outputs taps * inputs groups
 * of four, so that they are read one after the other. Double precision: the language has no other arithmetic.
 */
export interface Layer {
  readonly inputs: number;
  readonly outputs: number;
  readonly taps: number;
  /** Frames from tap to tap. */
  readonly dilation: number;
  readonly weights: Float64Array;
  readonly bias: Float64Array;
}

/**
 * Rows of `inputs` values to rows of `outputs`; what lies before the first and after the last row counts as zero.
 * Cost: inputs * taps * outputs multiplications a row. Two rows and four outputs are summed at once, which is what a
 * processor's registers hold.
 */
export function convolve(layer: Layer, input: Float32Array, rowCount: number): Float32Array {
  const { inputs, outputs, taps, dilation, weights, bias } = layer;
  const length = inputs * taps;
  const first = new Float64Array(length);
  const second = new Float64Array(length);
  const out = new Float32Array(rowCount * outputs);
  const gather = (row: number, target: Float64Array): void => {
    for (let tap = 0; tap < taps; tap++) {
      const source = row + (tap - (taps - 1) / 2) * dilation;
      if (source < 0 || source >= rowCount) target.fill(0, tap * inputs, (tap + 1) * inputs);
      else for (let i = 0; i < inputs; i++) target[tap * inputs + i] = input[source * inputs + i]!;
    }
  };
  for (let row = 0; row < rowCount; row += 2) {
    gather(row, first);
    gather(row + 1, second);
    const lastRow = row + 1 === rowCount;
    for (let output = 0; output < outputs; output += 4) {
      let w = output * length;
      let a0 = bias[output]!;
      let b0 = bias[output + 1]!;
      let c0 = bias[output + 2]!;
      let d0 = bias[output + 3]!;
      let [a1, b1, c1, d1] = [a0, b0, c0, d0];
      for (let i = 0; i < length; i++) {
        const x0 = first[i]!;
        const x1 = second[i]!;
        const a = weights[w]!;
        const b = weights[w + 1]!;
        const c = weights[w + 2]!;
        const d = weights[w + 3]!;
        w += 4;
        a0 += a * x0;
        b0 += b * x0;
        c0 += c * x0;
        d0 += d * x0;
        a1 += a * x1;
        b1 += b * x1;
        c1 += c * x1;
        d1 += d * x1;
      }
      const at = row * outputs + output;
      out[at] = a0;
      out[at + 1] = b0;
      out[at + 2] = c0;
      out[at + 3] = d0;
      if (lastRow) continue;
      out[at + outputs] = a1;
      out[at + outputs + 1] = b1;
      out[at + outputs + 2] = c1;
      out[at + outputs + 3] = d1;
    }
  }
  return out;
}

/** Negative values become zero, in place. */
export function rectify(values: Float32Array): void {
  for (let i = 0; i < values.length; i++) if (values[i]! < 0) values[i] = 0;
}

/** IEEE 754 half-precision numbers, little-endian, in base64. Not-a-number and infinity do not occur in weights. */
export function halfPrecisionNumbers(base64: string): Float32Array {
  const bytes = Uint8Array.from(atob(base64), (character) => character.charCodeAt(0));
  const numbers = new Float32Array(bytes.length / 2);
  for (let i = 0; i < numbers.length; i++) {
    const bits = bytes[2 * i]! | (bytes[2 * i + 1]! << 8);
    const exponent = (bits >> 10) & 31;
    const fraction = bits & 1023;
    const value = exponent === 0 ? fraction * 2 ** -24 : (1 + fraction / 1024) * 2 ** (exponent - 15);
    numbers[i] = bits & 0x8000 ? -value : value;
  }
  return numbers;
}

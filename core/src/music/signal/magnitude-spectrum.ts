import FFT from "fft.js";

/**
 * Magnitudes of stretches of a real signal under one window. The stretch is transformed as half as
 * many complex numbers, with even samples as real and odd ones as imaginary parts. They are
 * separated afterwards (Sorensen et al., "Real-valued fast Fourier transform algorithms", IEEE ASSP
 * 1987): two thirds of the time of a real transform of the package. Cost: one transform of half the
 * window's length a stretch.
 */
export class MagnitudeSpectrum {
  /** Bins 0 to half the window, both included; overwritten by each `take`. */
  readonly magnitudes: Float64Array;
  readonly #window: Float64Array;
  readonly #fft: FFT;
  readonly #input: Float64Array;
  readonly #output: Float64Array;
  readonly #cosines: Float64Array;
  readonly #sines: Float64Array;

  /** The window's length is a power of two, at least 8. */
  constructor(window: Float64Array) {
    const half = window.length / 2;
    this.#window = window;
    this.#fft = new FFT(half);
    this.#input = new Float64Array(window.length);
    this.#output = new Float64Array(window.length);
    this.magnitudes = new Float64Array(half + 1);
    const turn = (bin: number): number => (2 * Math.PI * bin) / window.length;
    this.#cosines = Float64Array.from({ length: half / 2 + 1 }, (_, bin) => Math.cos(turn(bin)));
    this.#sines = Float64Array.from({ length: half / 2 + 1 }, (_, bin) => Math.sin(turn(bin)));
  }

  /** The samples from `from` on, as many as the window has; all of them must be there. */
  take(samples: Float32Array, from: number): void {
    takeWindow(this.#input, samples, from, this.#window);
    this.#fft.transform(this.#output, this.#input);
    takeApart(this.magnitudes, this.#output, this.#cosines, this.#sines);
  }
}

/** A Hann window that is also a gain. */
export function hannWindow(length: number, gain: number): Float64Array {
  return Float64Array.from({ length }, (_, i) => gain * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length)));
}

/**
 * The samples with silence around them, and a window more at the end, so that no stretch reaches
 * outside.
 */
export function paddedBy(samples: Float32Array, silence: number): Float32Array {
  const padded = new Float32Array(samples.length + 4 * silence);
  padded.set(samples, silence);
  return padded;
}

/** These steps are functions of their own because they are compiled best that way. */
function takeWindow(target: Float64Array, samples: Float32Array, from: number, window: Float64Array): void {
  for (let i = 0; i < window.length; i++) target[i] = samples[from + i]! * window[i]!;
}

/**
 * Bin k and the bin as far from the end come from the same two numbers of the half-size transform.
 */
function takeApart(target: Float64Array, packed: Float64Array, cosines: Float64Array, sines: Float64Array): void {
  const half = target.length - 1;
  target[0] = Math.abs(packed[0]! + packed[1]!);
  target[half] = Math.abs(packed[0]! - packed[1]!);
  for (let bin = 1; bin < cosines.length; bin++) {
    const mirrored = half - bin;
    const [a, b] = [packed[2 * bin]!, packed[2 * bin + 1]!];
    const [c, d] = [packed[2 * mirrored]!, packed[2 * mirrored + 1]!];
    const evenReal = 0.5 * (a + c);
    const evenImaginary = 0.5 * (b - d);
    const oddReal = 0.5 * (b + d);
    const oddImaginary = 0.5 * (c - a);
    const turnedReal = oddReal * cosines[bin]! + oddImaginary * sines[bin]!;
    const turnedImaginary = oddImaginary * cosines[bin]! - oddReal * sines[bin]!;
    target[bin] = length(evenReal + turnedReal, evenImaginary + turnedImaginary);
    target[mirrored] = length(evenReal - turnedReal, evenImaginary - turnedImaginary);
  }
}

const length = (real: number, imaginary: number): number => Math.sqrt(real * real + imaginary * imaginary);

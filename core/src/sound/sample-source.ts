/** Two channels of samples, equally long. */
export type Stereo = readonly [left: Float32Array, right: Float32Array];

/** The decoded sound of a song, wherever it lies. */
export interface SampleSource {
  readonly frameCount: number;
  /**
   * `count` frames from frame `from` on, in arrays of the caller's own; what lies outside the song
   * is 0.
   */
  read(from: number, count: number): Stereo;
}

/** Sound that lies in memory. */
export function memorySource([left, right]: Stereo): SampleSource {
  const piece = (samples: Float32Array, from: number, count: number): Float32Array => {
    const out = new Float32Array(count);
    const first = Math.max(0, from);
    const end = Math.min(samples.length, from + count);
    if (end > first) out.set(samples.subarray(first, end), first - from);
    return out;
  };
  return { frameCount: left.length, read: (from, count) => [piece(left, from, count), piece(right, from, count)] };
}

/** So many frames of nothing, in stereo. */
export const silence = (frameCount: number): Stereo => [new Float32Array(frameCount), new Float32Array(frameCount)];

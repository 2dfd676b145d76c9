import {
  type Chroma,
  FRAME_HOPS,
  FRAME_SECONDS,
  ONSET_RANGES,
  type OnsetStrength,
  PITCH_CLASSES,
  type Spectrogram,
} from "../signal/index.ts";

const LEVEL_BANDS = 36;
/** How far harmony is looked at before and after a frame, in seconds. */
const HARMONY_SPANS_SECONDS = [0.24, 0.6, 1.5];
export const FEATURES_PER_FRAME = LEVEL_BANDS + ONSET_RANGES * FRAME_HOPS + 2 * HARMONY_SPANS_SECONDS.length;
/** Mean level of a frame below which it is silent, and says nothing of the song's sound. */
const SOUNDING_LEVEL = 0.02;
/** Added to the deviation of levels and onsets, so that a band with next to nothing stays small. */
const LEVEL_FLOOR = 0.03;
const ONSET_FLOOR = 0.05;

/**
 * What the beat network hears, every 20 ms: the level in 36 bands, and the onsets of 12 ranges in
 * both hops of the frame. And how different the harmony (treble, bass) just after is from that just
 * before, over three spans. Rows of FEATURES_PER_FRAME. Levels and onsets are standardised over the
 * song (mean 0, deviation 1), so that a dull, a bright and a pressed copy are heard alike.
 */
export function beatFeatures(spectrum: Spectrogram, onsets: OnsetStrength, harmony: Chroma): Float32Array {
  const frameCount = Math.ceil(spectrum.hopCount / FRAME_HOPS);
  const features = new Float32Array(frameCount * FEATURES_PER_FRAME);
  for (let frame = 0; frame < frameCount; frame++) {
    const row = frame * FEATURES_PER_FRAME;
    writeLevels(features, row, spectrum, frame * FRAME_HOPS);
    for (let i = 0; i < ONSET_RANGES * FRAME_HOPS; i++) {
      // Square root: one very loud stroke shall not drown what else there is.
      features[row + LEVEL_BANDS + i] = Math.sqrt(onsets.ranges[frame * FRAME_HOPS * ONSET_RANGES + i] ?? 0);
    }
  }
  let column = LEVEL_BANDS + ONSET_RANGES * FRAME_HOPS;
  for (const pitches of [harmony.treble, harmony.bass]) {
    for (const seconds of HARMONY_SPANS_SECONDS) {
      const change = harmonicChange(pitches, Math.round(seconds / FRAME_SECONDS));
      for (let frame = 0; frame < frameCount; frame++) {
        features[frame * FEATURES_PER_FRAME + column] = change[Math.min(frame, change.length - 1)]!;
      }
      column++;
    }
  }
  standardise(features, frameCount);
  return features;
}

/** Mean 0 and deviation 1 of each level and onset column over the frames that sound. */
function standardise(features: Float32Array, frameCount: number): void {
  const columns = LEVEL_BANDS + ONSET_RANGES * FRAME_HOPS;
  const sums = new Float64Array(columns);
  const squares = new Float64Array(columns);
  let sounding = 0;
  for (let row = 0; row < frameCount * FEATURES_PER_FRAME; row += FEATURES_PER_FRAME) {
    let level = 0;
    for (let c = 0; c < LEVEL_BANDS; c++) level += features[row + c]!;
    if (level < SOUNDING_LEVEL * LEVEL_BANDS) continue;
    sounding++;
    for (let c = 0; c < columns; c++) {
      sums[c]! += features[row + c]!;
      squares[c]! += features[row + c]! ** 2;
    }
  }
  if (sounding === 0) return;
  for (let c = 0; c < columns; c++) {
    const mean = sums[c]! / sounding;
    const deviation = Math.sqrt(Math.max(0, squares[c]! / sounding - mean * mean));
    const scale = 1 / (deviation + (c < LEVEL_BANDS ? LEVEL_FLOOR : ONSET_FLOOR));
    for (let at = c; at < features.length; at += FEATURES_PER_FRAME) features[at] = (features[at]! - mean) * scale;
  }
}

/** The mean level of neighbouring bands in both hops of a frame. */
function writeLevels(features: Float32Array, row: number, spectrum: Spectrogram, hop: number): void {
  const { bandCount, bands, hopCount } = spectrum;
  const second = Math.min(hop + 1, hopCount - 1);
  for (let level = 0; level < LEVEL_BANDS; level++) {
    const first = Math.floor((level * bandCount) / LEVEL_BANDS);
    const end = Math.max(first + 1, Math.floor(((level + 1) * bandCount) / LEVEL_BANDS));
    let sum = 0;
    for (let band = first; band < end; band++)
      sum += bands[hop * bandCount + band]! + bands[second * bandCount + band]!;
    features[row + level] = sum / (2 * (end - first));
  }
}

/**
 * One less the cosine between the mean pitch classes of the `span` frames before and the `span`
 * frames from here on: 0 to 1.
 */
function harmonicChange(pitches: Float32Array, span: number): Float32Array {
  const frameCount = pitches.length / PITCH_CLASSES;
  const sums = new Float64Array((frameCount + 1) * PITCH_CLASSES);
  for (let i = 0; i < pitches.length; i++) sums[i + PITCH_CLASSES] = sums[i]! + pitches[i]!;
  const change = new Float32Array(frameCount);
  for (let frame = 0; frame < frameCount; frame++) {
    const here = frame * PITCH_CLASSES;
    const before = Math.max(0, frame - span) * PITCH_CLASSES;
    const after = Math.min(frameCount, frame + span) * PITCH_CLASSES;
    let product = 0;
    let left = 0;
    let right = 0;
    for (let pitch = 0; pitch < PITCH_CLASSES; pitch++) {
      const a = sums[here + pitch]! - sums[before + pitch]!;
      const b = sums[after + pitch]! - sums[here + pitch]!;
      product += a * b;
      left += a * a;
      right += b * b;
    }
    change[frame] = left > 0 && right > 0 ? 1 - product / Math.sqrt(left * right) : 0;
  }
  return change;
}

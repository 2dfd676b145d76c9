import type { HummingTideError } from "../../errors/index.ts";
import type { Seconds } from "../../time/index.ts";
import { musicError } from "../music-errors.ts";
import {
  convolve,
  FRAME_SECONDS,
  HOP_SECONDS,
  halfPrecisionNumbers,
  type NetworkLayer,
  rectify,
} from "../signal/index.ts";
import { FEATURES_PER_FRAME } from "./beat-features.ts";

const ENTER_TAPS = 3;
const BLOCK_TAPS = 5;
/** Fine frames (20 ms) in a coarse one. */
const FOLD = 4;
const OUTPUTS = 4;

/** What the network says of each 20 ms frame. */
export interface BeatActivations {
  readonly frameCount: number;
  /** Log odds that a beat, a bar start, a section start lies in the frame. */
  readonly beat: Float32Array;
  readonly barStart: Float32Array;
  readonly sectionStart: Float32Array;
  /**
   * Where the nearest beat lies against the frame's centre, in frames; means something only where
   * `beat` is high.
   */
  readonly place: Float32Array;
}

/** Log odds are cut to this on both sides: one very sure beat shall not outweigh a whole phrase. */
const SUREST_ODDS = 5;
/** A frame of 20 ms is the two hops at its start and 10 ms later; its middle lies between them. */
export const FRAME_MIDDLE_SECONDS = HOP_SECONDS / 2;

/** Log odds, -5 to 5, that a beat lies at a moment: those of the likelier frame beside it. */
export function oddsAt({ beat, frameCount }: BeatActivations, seconds: Seconds): number {
  const last = frameCount - 1;
  const left = Math.max(0, Math.min(last, Math.floor((seconds - FRAME_MIDDLE_SECONDS) / FRAME_SECONDS)));
  const odds = Math.max(beat[left]!, beat[Math.min(last, left + 1)]!);
  return Math.max(-SUREST_ODDS, Math.min(SUREST_ODDS, odds));
}

interface Block {
  readonly dilated: NetworkLayer;
  readonly mixed: NetworkLayer;
}

/** The network that finds beats, ready to run (readBeatNetwork). */
export interface BeatNetwork {
  /** Which training made it; an analysis says so. */
  readonly name: string;
  readonly mean: Float32Array;
  readonly enter: NetworkLayer;
  readonly before: readonly Block[];
  readonly down: NetworkLayer;
  readonly coarse: readonly Block[];
  readonly up: NetworkLayer;
  readonly after: readonly Block[];
  readonly leave: NetworkLayer;
}

/**
 * Runs the beat network over the rows of beatFeatures: residual blocks of convolutions whose
 * dilation doubles (after Davies & Böck, EUSIPCO 2019). Fine ones at 50 frames a second stand
 * around coarse ones at 12.5, which hear 20 s before and after a frame. Cost: about 40,000
 * multiplications a frame.
 */
export function beatActivations(features: Float32Array, network: BeatNetwork): BeatActivations {
  const frameCount = features.length / FEATURES_PER_FRAME;
  const padded = Math.ceil(frameCount / FOLD) * FOLD;
  const centred = new Float32Array(padded * FEATURES_PER_FRAME);
  for (let i = 0; i < features.length; i++) centred[i] = features[i]! - network.mean[i % FEATURES_PER_FRAME]!;

  const fine = convolve(network.enter, centred, padded);
  rectify(fine);
  for (const block of network.before) addBlock(block, fine, padded);
  // Four fine rows behind one another are one row for the way down, and one row from the way up is
  // four fine ones.
  const coarseCount = padded / FOLD;
  const coarse = convolve(network.down, rectified(fine), coarseCount);
  rectify(coarse);
  for (const block of network.coarse) addBlock(block, coarse, coarseCount);
  rectify(coarse);
  const up = convolve(network.up, coarse, coarseCount);
  for (let i = 0; i < fine.length; i++) fine[i]! += up[i]!;
  for (const block of network.after) addBlock(block, fine, padded);
  rectify(fine);
  const out = convolve(network.leave, fine, padded);
  const column = (index: number): Float32Array =>
    Float32Array.from({ length: frameCount }, (_, frame) => out[frame * OUTPUTS + index]!);
  return { frameCount, beat: column(0), barStart: column(1), sectionStart: column(2), place: column(3) };
}

function addBlock({ dilated, mixed }: Block, stream: Float32Array, frameCount: number): void {
  const hidden = convolve(dilated, stream, frameCount);
  rectify(hidden);
  const added = convolve(mixed, hidden, frameCount);
  for (let i = 0; i < stream.length; i++) stream[i]! += added[i]!;
}

function rectified(values: Float32Array): Float32Array {
  const copy = values.slice();
  rectify(copy);
  return copy;
}

/**
 * Reads the file of a beat network, as training/train.py writes it: the length of a header (four
 * bytes, little-endian), the header (JSON: name, channels and dilations), then the weights as
 * half-precision numbers in the order in which they are used. Throws `beat-network-damaged` where
 * the file is cut short or longer than its header says.
 */
export function readBeatNetwork(file: Uint8Array): BeatNetwork {
  const { shape, numbers } = partsOf(file);
  const { name, fineChannels, coarseChannels, fineDilations, coarseDilations } = shape;
  let at = 0;
  const take = (count: number): Float32Array => numbers.subarray(at, (at += count));
  const layer = (inputs: number, outputs: number, taps: number, dilation = 1): NetworkLayer => {
    const stored = take(outputs * inputs * taps);
    // Stored as output, input, tap; used as two outputs at a time, tap, input, output, which is how
    // rows lie in memory.
    const weights = new Float64Array(stored.length);
    for (let o = 0; o < outputs; o++) {
      for (let i = 0; i < inputs; i++) {
        for (let t = 0; t < taps; t++) {
          const pair = Math.floor(o / 2) * taps * inputs + t * inputs + i;
          weights[pair * 2 + (o % 2)] = stored[(o * inputs + i) * taps + t]!;
        }
      }
    }
    return { inputs, outputs, taps, dilation, weights, bias: Float64Array.from(take(outputs)) };
  };
  const blocks = (channels: number, dilations: readonly number[]): Block[] =>
    dilations.map((dilation) => ({
      dilated: layer(channels, channels, BLOCK_TAPS, dilation),
      mixed: layer(channels, channels, 1),
    }));
  const mean = take(FEATURES_PER_FRAME);
  const enter = layer(FEATURES_PER_FRAME, fineChannels, ENTER_TAPS);
  const before = blocks(fineChannels, fineDilations);
  // With the four rows already behind one another, four taps are one tap with four times the
  // inputs.
  const folded = layer(fineChannels, coarseChannels, FOLD);
  const down = { ...folded, inputs: fineChannels * FOLD, taps: 1 };
  const coarse = blocks(coarseChannels, coarseDilations);
  const up = layer(coarseChannels, fineChannels * FOLD, 1);
  const after = blocks(fineChannels, fineDilations);
  const leave = layer(fineChannels, OUTPUTS, 1);
  if (at !== numbers.length) throw damaged(`it has ${numbers.length} numbers, but its header asks for ${at}`);
  return { name, mean, enter, before, down, coarse, up, after, leave };
}

interface NetworkShape {
  readonly name: string;
  readonly fineChannels: number;
  readonly coarseChannels: number;
  readonly fineDilations: readonly number[];
  readonly coarseDilations: readonly number[];
}

const HEADER_LENGTH_BYTES = 4;

function partsOf(file: Uint8Array): { shape: NetworkShape; numbers: Float32Array } {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  const weightsAt = file.length < HEADER_LENGTH_BYTES ? Infinity : HEADER_LENGTH_BYTES + view.getUint32(0, true);
  if (weightsAt > file.length) throw damaged("it ends before its weights");
  const header = new TextDecoder().decode(file.subarray(HEADER_LENGTH_BYTES, weightsAt));
  try {
    return { shape: JSON.parse(header) as NetworkShape, numbers: halfPrecisionNumbers(file.subarray(weightsAt)) };
  } catch {
    throw damaged("its header is no JSON");
  }
}

const damaged = (why: string): HummingTideError => musicError("beat-network-damaged", { why });

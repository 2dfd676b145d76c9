/** Types of packages that only tests use, as other programs to check our files against. */
declare module "midi-file" {
  interface MidiEvent {
    deltaTime: number;
    type: string;
    microsecondsPerBeat?: number;
    numerator?: number;
  }
  export function parseMidi(bytes: Uint8Array): { header: { ticksPerBeat?: number }; tracks: MidiEvent[][] };
}

declare module "wavefile" {
  export class WaveFile {
    constructor(bytes?: Uint8Array);
    fromScratch(channels: number, sampleRate: number, bitDepth: string, samples: ArrayLike<number>): void;
    toBuffer(): Uint8Array;
    readonly fmt: { numChannels: number; sampleRate: number; bitsPerSample: number; audioFormat: number };
    getSamples(interleaved?: boolean): Float64Array;
    getSamples(interleaved: boolean, type: Int16ArrayConstructor): Int16Array;
    /** Positions in milliseconds. */
    setCuePoint(point: { position: number; label?: string }): void;
    listCuePoints(): { position: number; label: string }[];
  }
}

declare module "webvtt-parser" {
  export class WebVTTParser {
    parse(
      text: string,
      mode: string,
    ): { cues: { id: string; text: string; startTime: number; endTime: number }[]; errors: { message: string }[] };
  }
}

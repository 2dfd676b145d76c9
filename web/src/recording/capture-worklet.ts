/**
 * Runs on the audio thread: hands on what the microphone hears, a thirtieth of a second at a time.
 */

declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

const PIECE_FRAMES = 1536;

class Capture extends AudioWorkletProcessor {
  #piece = new Float32Array(PIECE_FRAMES);
  #filled = 0;

  process(inputs: readonly (readonly Float32Array[])[]): boolean {
    const [channel] = inputs[0] ?? [];
    if (!channel) return true;
    for (let at = 0; at < channel.length; ) {
      const taken = Math.min(channel.length - at, PIECE_FRAMES - this.#filled);
      this.#piece.set(channel.subarray(at, at + taken), this.#filled);
      at += taken;
      this.#filled += taken;
      if (this.#filled < PIECE_FRAMES) continue;
      this.port.postMessage(this.#piece, [this.#piece.buffer]);
      this.#piece = new Float32Array(PIECE_FRAMES);
      this.#filled = 0;
    }
    return true;
  }
}

registerProcessor("capture", Capture);

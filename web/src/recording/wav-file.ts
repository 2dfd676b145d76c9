/** Samples of one channel as a WAV of 24 bits (RIFF, WAVE format 1): the file that is kept of a recording. What lies beyond full scale is held there. O(samples). */
export function wavFile(pieces: readonly Float32Array[], sampleRate: number): Uint8Array<ArrayBuffer> {
  const count = pieces.reduce((sum, piece) => sum + piece.length, 0);
  const dataBytes = count * BYTES_PER_SAMPLE;
  // Chunks of RIFF have even lengths.
  const bytes = new Uint8Array(HEADER_BYTES + dataBytes + (dataBytes % 2));
  const view = new DataView(bytes.buffer);
  const text = (at: number, letters: string): void => {
    for (let i = 0; i < letters.length; i++) view.setUint8(at + i, letters.charCodeAt(i));
  };
  text(0, "RIFF");
  view.setUint32(4, bytes.length - 8, true);
  text(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * BYTES_PER_SAMPLE, true);
  view.setUint16(32, BYTES_PER_SAMPLE, true);
  view.setUint16(34, 8 * BYTES_PER_SAMPLE, true);
  text(36, "data");
  view.setUint32(40, dataBytes, true);
  let at = HEADER_BYTES;
  for (const piece of pieces) {
    for (const sample of piece) {
      const value = Math.max(-FULL_SCALE, Math.min(FULL_SCALE - 1, Math.round(sample * FULL_SCALE)));
      view.setUint16(at, value & 0xffff, true);
      view.setInt8(at + 2, value >> 16);
      at += BYTES_PER_SAMPLE;
    }
  }
  return bytes;
}

const HEADER_BYTES = 44;
const BYTES_PER_SAMPLE = 3;
const FULL_SCALE = 2 ** 23;

/**
 * Samples as a WAV file (RIFF, WAVE format 1, PCM): channels of equal length, full scale 1. What
 * lies beyond full scale is held there. O(samples).
 */
export function writeWav(
  channels: readonly Float32Array[],
  sampleRate: number,
  bits: 16 | 24,
): Uint8Array<ArrayBuffer> {
  const bytesPerSample = bits / 8;
  const bytesPerFrame = bytesPerSample * channels.length;
  const frameCount = channels[0]?.length ?? 0;
  const dataBytes = frameCount * bytesPerFrame;
  // Chunks of RIFF have even lengths.
  const file = new Uint8Array(HEADER_BYTES + dataBytes + (dataBytes % 2));
  const view = new DataView(file.buffer);
  file.set(new TextEncoder().encode("RIFF    WAVEfmt "));
  view.setUint32(4, file.length - 8, true);
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, channels.length, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * bytesPerFrame, true);
  view.setUint16(32, bytesPerFrame, true);
  view.setUint16(34, bits, true);
  file.set(new TextEncoder().encode("data"), 36);
  view.setUint32(40, dataBytes, true);
  const fullScale = 2 ** (bits - 1);
  let at = HEADER_BYTES;
  for (let frame = 0; frame < frameCount; frame++) {
    for (const channel of channels) {
      const value = Math.max(-fullScale, Math.min(fullScale - 1, Math.round(channel[frame]! * fullScale)));
      if (bits === 24) file[at++] = value & 0xff;
      view.setInt16(at, bits === 24 ? value >> 8 : value, true);
      at += 2;
    }
  }
  return file;
}

const HEADER_BYTES = 44;

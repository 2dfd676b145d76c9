import type { StereoSound } from "./mixdown.ts";

/** A WAV file (RIFF, 16-bit PCM, two channels) of a sound. */
export function writeWav({ left, right, sampleRate }: StereoSound): Buffer {
  const dataBytes = left.length * 4;
  const file = Buffer.alloc(44 + dataBytes);
  file.write("RIFF", 0, "latin1");
  file.writeUInt32LE(36 + dataBytes, 4);
  file.write("WAVEfmt ", 8, "latin1");
  file.writeUInt32LE(16, 16);
  file.writeUInt16LE(1, 20);
  file.writeUInt16LE(2, 22);
  file.writeUInt32LE(sampleRate, 24);
  file.writeUInt32LE(sampleRate * 4, 28);
  file.writeUInt16LE(4, 32);
  file.writeUInt16LE(16, 34);
  file.write("data", 36, "latin1");
  file.writeUInt32LE(dataBytes, 40);
  const samples = new Int16Array(file.buffer, file.byteOffset + 44, left.length * 2);
  for (let i = 0; i < left.length; i++) {
    samples[2 * i] = Math.round(left[i]! * 32_767);
    samples[2 * i + 1] = Math.round(right[i]! * 32_767);
  }
  return file;
}

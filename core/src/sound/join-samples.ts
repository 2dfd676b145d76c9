/** Pieces of one channel, one after the other, as one array. O(samples). */
export function joinSamples(pieces: readonly Float32Array[]): Float32Array {
  const samples = new Float32Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    samples.set(piece, at);
    at += piece.length;
  }
  return samples;
}

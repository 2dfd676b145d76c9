/**
 * Curves between code values (0 to 1) and light. Of HDR the light is in candelas a square metre, of
 * other video 0 to 1.
 */

/** SMPTE ST 2084, ITU-R BT.2100-2 table 4: perceptual quantisation. */
const PQ = {
  m1: 2610 / 16384,
  m2: (2523 / 4096) * 128,
  c1: 3424 / 4096,
  c2: (2413 / 4096) * 32,
  c3: (2392 / 4096) * 32,
};
const PQ_PEAK = 10_000;

/** Candelas a square metre of a code of PQ, 0 to 10,000. */
export function nitsOfPq(code: number): number {
  const power = Math.max(0, code) ** (1 / PQ.m2);
  return PQ_PEAK * (Math.max(power - PQ.c1, 0) / (PQ.c2 - PQ.c3 * power)) ** (1 / PQ.m1);
}

/** The code of PQ for so much light. */
export function pqOfNits(nits: number): number {
  const power = (Math.max(0, nits) / PQ_PEAK) ** PQ.m1;
  return ((PQ.c1 + PQ.c2 * power) / (1 + PQ.c3 * power)) ** PQ.m2;
}

/** ITU-R BT.2100-2 table 5: hybrid log-gamma. */
const HLG = { a: 0.17883277, b: 1 - 4 * 0.17883277, c: 0.5 - 0.17883277 * Math.log(4 * 0.17883277) };

/** The scene's light for a code of HLG, 0 to 1. */
export const sceneOfHlg = (code: number): number =>
  code <= 0.5 ? Math.max(0, code) ** 2 / 3 : (Math.exp((code - HLG.c) / HLG.a) + HLG.b) / 12;

/** IEC 61966-2-1: the light of a screen for a code, 0 to 1. */
export const lightOfSrgb = (code: number): number =>
  code <= 0.04045 ? Math.max(0, code) / 12.92 : ((code + 0.055) / 1.055) ** 2.4;
/** IEC 61966-2-1: the code for so much light. */
export const codeOfSrgb = (light: number): number =>
  light <= 0.0031308 ? 12.92 * Math.max(0, light) : 1.055 * light ** (1 / 2.4) - 0.055;

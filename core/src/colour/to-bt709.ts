import { isPrimaries, type Light, lightInBt709, luminanceShares, type Primaries } from "./primaries.ts";
import { toneCurve } from "./tone-curve.ts";
import { codeOfSrgb, lightOfSrgb, nitsOfPq, sceneOfHlg } from "./transfer.ts";

/** What a clip says of its colours, by the names that ffmpeg gives them; null where it does not. */
export interface VideoColours {
  readonly transfer: string | null;
  readonly primaries: string | null;
  /** The brightest light that it holds, in candelas a square metre; null: as phones film, 1000. */
  readonly peakNits: number | null;
}

const PQ = "smpte2084";
const HLG = "arib-std-b67";
/** ITU-R BT.2100: of HLG this is the brightness that its system gamma of 1.2 belongs to. */
const HLG_PEAK = 1000;
const HLG_GAMMA = 1.2;
const USUAL_PEAK = 1000;
/** ITU-R BT.2408: white of HDR, which becomes the white of BT.709. */
const WHITE_NITS = 203;

/** Whether a clip holds more light than an ordinary screen shows. */
export const isHdr = ({ transfer }: Pick<VideoColours, "transfer">): boolean => transfer === PQ || transfer === HLG;

const primariesOf = ({ transfer, primaries }: Pick<VideoColours, "transfer" | "primaries">): Primaries => {
  if (primaries !== null && isPrimaries(primaries)) return primaries;
  return isHdr({ transfer }) ? "bt2020" : "bt709";
};

/**
 * Whether a clip looks wrong where its code values are taken for BT.709. The primaries of BT.601
 * differ so little that they are taken for BT.709.
 */
export const needsColourChange = (colours: VideoColours): boolean => isHdr(colours) || primariesOf(colours) !== "bt709";

/**
 * How code values of a clip become those of BT.709, all 0 to 1. Codes without HDR are taken for
 * those of a screen (IEC 61966-2-1), as browsers do, so that pictures and clips look alike. HDR
 * goes through the tone curve of ITU-R BT.2390. Its brightest channel is bent, and the others with
 * it, so that hues stay. What BT.709 cannot show is mixed with grey of its own brightness; of other
 * clips it is cut off, as in pictures. O(1) a colour.
 */
export function toBt709(colours: VideoColours): (code: Light) => Light {
  const primaries = primariesOf(colours);
  const inBt709 = lightInBt709(primaries);
  if (!isHdr(colours)) return (from) => each(inBt709(each(from, lightOfSrgb)), (value) => codeOfSrgb(clamp(value)));
  const nits = colours.transfer === HLG ? nitsOfHlg(luminanceShares(primaries)) : pqNits;
  const curve = toneCurve(colours.transfer === HLG ? HLG_PEAK : (colours.peakNits ?? USUAL_PEAK), WHITE_NITS);
  return (from) => {
    const shown = nits(from);
    const brightest = Math.max(...shown);
    const scale = brightest > 0 ? curve(brightest) / brightest / WHITE_NITS : 0;
    return each(withinReach(inBt709(each(shown, (value) => value * scale))), codeOfSrgb);
  };
}

const each = ([red, green, blue]: Light, change: (value: number) => number): Light => [
  change(red),
  change(green),
  change(blue),
];

const pqNits = (code: Light): Light => each(code, nitsOfPq);

/** ITU-R BT.2100: the screen shows a scene brighter than it was, all channels alike. */
function nitsOfHlg(shares: Light): (code: Light) => Light {
  return (code) => {
    const scene = each(code, sceneOfHlg);
    const luminance = shares[0] * scene[0] + shares[1] * scene[1] + shares[2] * scene[2];
    const scale = luminance > 0 ? HLG_PEAK * luminance ** (HLG_GAMMA - 1) : 0;
    return each(scene, (value) => value * scale);
  };
}

const SHARES = luminanceShares("bt709");

/** As much grey of the same luminance as brings all channels between 0 and 1. */
function withinReach(light: Light): Light {
  const grey = clamp(SHARES[0] * light[0] + SHARES[1] * light[1] + SHARES[2] * light[2]);
  let kept = 1;
  for (const value of light) {
    if (value > 1) kept = Math.min(kept, (1 - grey) / (value - grey));
    if (value < 0) kept = Math.min(kept, grey / (grey - value));
  }
  return each(light, (value) => clamp(grey + kept * (value - grey)));
}

const clamp = (value: number): number => Math.max(0, Math.min(1, value));

import { isPrimaries, type Light, luminanceShares, type Matrix, type Primaries, rowsToBt709 } from "./primaries.ts";
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
/** The scene's light that HLG shows so bright. */
const SCENE_WHITE = (WHITE_NITS / HLG_PEAK) ** (1 / HLG_GAMMA);

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
 * How code values of a clip become those of BT.709, in steps that a program for video has too. All
 * values are 0 to 1; what falls outside is cut off between them.
 */
export interface ColourSteps {
  /** A channel's code as light, 1: the brightest that can be written. */
  readonly light: (code: number) => number;
  /** Rows that bring light to the primaries of BT.709. */
  readonly mix: Matrix;
  /** A channel's light as code. */
  readonly code: (light: number) => number;
  /** Bends the codes of HDR, which reach beyond white, into those of a screen; null: they are. */
  readonly bend: ((code: Light) => Light) | null;
}

/**
 * The steps for a clip. Codes without HDR are taken for those of a screen (IEC 61966-2-1), as
 * browsers do, so that pictures and clips look alike. HDR goes through the tone curve of ITU-R
 * BT.2390. The brightest channel in BT.709 is bent, and the others with it, so that hues stay.
 * Colours that BT.709 cannot show are cut off, as in pictures.
 */
export function colourSteps(colours: VideoColours): ColourSteps {
  const rows = rowsToBt709(primariesOf(colours));
  if (!isHdr(colours)) return { light: lightOfSrgb, mix: rows, code: codeOfSrgb, bend: null };
  // Of saturated light a channel in BT.709 is brighter than any was before: 1 has room for it.
  const room = Math.max(...rows.map((row) => row.reduce((sum, share) => sum + Math.max(0, share), 0)));
  const mix = rows.map((row) => each(row, (share) => share / room)) as unknown as Matrix;
  const isHlg = colours.transfer === HLG;
  const peakNits = isHlg ? HLG_PEAK : (colours.peakNits ?? USUAL_PEAK);
  const light = isHlg ? sceneOfHlg : (code: number) => Math.min(1, nitsOfPq(code) / peakNits);
  // Codes of a screen whose white is that of HDR, gone on above 1, and brought back to 1.
  const white = isHlg ? SCENE_WHITE : WHITE_NITS / peakNits;
  const most = codeOfSrgb(room / white);
  const curve = toneCurve(peakNits, WHITE_NITS);
  return {
    light,
    mix,
    code: (value) => codeOfSrgb((value * room) / white) / most,
    bend: (codes) => {
      const share = each(codes, (code) => lightOfSrgb(code * most) * white);
      const nits = isHlg ? nitsOfScene(share) : each(share, (value) => value * peakNits);
      const brightest = Math.max(...nits);
      const scale = brightest > 0 ? curve(brightest) / brightest / WHITE_NITS : 0;
      return each(nits, (value) => codeOfSrgb(clamp(value * scale)));
    },
  };
}

/** The steps one after the other: a colour's codes in BT.709. O(1) a colour. */
export function toBt709(colours: VideoColours): (code: Light) => Light {
  const { light, mix, code, bend } = colourSteps(colours);
  return (from) => {
    const lights = each(from, light);
    const mixed = mix.map((row) => row[0] * lights[0] + row[1] * lights[1] + row[2] * lights[2]);
    const codes = each(mixed as unknown as Light, (value) => code(clamp(value)));
    return bend?.(codes) ?? codes;
  };
}

const each = ([red, green, blue]: Light, change: (value: number) => number): Light => [
  change(red),
  change(green),
  change(blue),
];

const SHARES = luminanceShares("bt709");

/** ITU-R BT.2100: the screen shows a scene brighter than it was, all channels alike. */
function nitsOfScene(scene: Light): Light {
  const luminance = SHARES[0] * scene[0] + SHARES[1] * scene[1] + SHARES[2] * scene[2];
  const scale = luminance > 0 ? HLG_PEAK * luminance ** (HLG_GAMMA - 1) : 0;
  return each(scene, (value) => value * scale);
}

const clamp = (value: number): number => Math.max(0, Math.min(1, value));

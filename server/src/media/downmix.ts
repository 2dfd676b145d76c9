import { soundStream } from "./sound-bounds.ts";

/**
 * ITU-R BS.775-3, table 2: centre and surround go to both sides, 3 dB lower; the channel for low
 * effects is left out.
 */
const SHARED = Math.SQRT1_2;
/** Such a sum is larger than its parts: with this nothing can clip. Levels are evened out later. */
const SCALE = 1 / (1 + 2 * SHARED);

/**
 * Channels of the layouts that files have; back and side of seven channels share what five have in
 * one.
 */
const LAYOUTS: Readonly<Record<string, readonly string[]>> = {
  "3.0": ["FC"],
  "3.1": ["FC"],
  quad: ["BL"],
  "quad(side)": ["SL"],
  "4.0": ["FC"],
  "5.0": ["FC", "BL"],
  "5.0(side)": ["FC", "SL"],
  "5.1": ["FC", "BL"],
  "5.1(side)": ["FC", "SL"],
  "7.1": ["FC", "BL", "SL"],
};

/**
 * The ffmpeg filter that makes two channels of a layout; null where it has two already, one, or is
 * not known.
 */
export function downmixFilter(layout: string): string | null {
  const others = LAYOUTS[layout];
  if (!others) return null;
  const surrounds = others.filter((channel) => channel !== "FC").length;
  const side = (front: "FL" | "FR"): string =>
    [
      `${SCALE.toFixed(6)}*${front}`,
      ...others.map((channel) => {
        const gain = channel === "FC" ? SHARED : SHARED / Math.sqrt(Math.max(1, surrounds));
        const name = channel === "FC" ? "FC" : channel.replace(/L$/, front === "FL" ? "L" : "R");
        return `${(SCALE * gain).toFixed(6)}*${name}`;
      }),
    ].join("+");
  return `pan=stereo|FL=${side("FL")}|FR=${side("FR")}`;
}

/**
 * What a person should know of a file with more than two channels; null where there is nothing to
 * say.
 */
export async function downmixRemark(original: string): Promise<string | null> {
  const layout = (await soundStream(original))?.channel_layout ?? "";
  return downmixFilter(layout) && `Its ${layout} sound was mixed down to two channels.`;
}

import type { Light } from "./primaries.ts";
import { colourSteps, type VideoColours } from "./to-bt709.ts";

/**
 * Values in each table; between them colours are taken in proportion. With these, colours are off
 * by less than 1 of 255, or 2 where HDR reaches 4000 candelas a square metre.
 */
export const LIGHT_VALUES = 4096;
export const CODE_VALUES = 16_384;
/** Along each side of a cube. Older builds of ffmpeg read at most 64. */
export const CUBE_SIDE = 33;

/** The steps that are curves, as tables that many programs read (".cube", common practice). */
export interface ColourTables {
  readonly light: string;
  readonly code: string;
  readonly bend: string | null;
}

/** The tables of a clip's steps to BT.709. Takes a fifth of a second. */
export function colourTables(colours: VideoColours): ColourTables {
  const { light, code, bend } = colourSteps(colours);
  return {
    light: curveText(light, LIGHT_VALUES),
    code: curveText(code, CODE_VALUES),
    bend: bend && cubeText(bend),
  };
}

/** One curve for red, green and blue. */
function curveText(curve: (value: number) => number, values: number): string {
  const lines = [`LUT_1D_SIZE ${values}`];
  for (let i = 0; i < values; i++) {
    const value = curve(i / (values - 1)).toFixed(8);
    lines.push(`${value} ${value} ${value}`);
  }
  return `${lines.join("\n")}\n`;
}

/** Red runs fastest. */
function cubeText(convert: (code: Light) => Light): string {
  const lines = [`LUT_3D_SIZE ${CUBE_SIDE}`];
  const at = (node: number): number => node / (CUBE_SIDE - 1);
  for (let blue = 0; blue < CUBE_SIDE; blue++)
    for (let green = 0; green < CUBE_SIDE; green++)
      for (let red = 0; red < CUBE_SIDE; red++)
        lines.push(
          convert([at(red), at(green), at(blue)])
            .map((value) => value.toFixed(6))
            .join(" "),
        );
  return `${lines.join("\n")}\n`;
}

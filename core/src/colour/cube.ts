import { toBt709, type VideoColours } from "./to-bt709.ts";

/**
 * Along each side of the cube; between them colours are taken in proportion. Older builds of ffmpeg
 * read no more.
 */
export const CUBE_NODES = 64;

/**
 * The way from a clip's code values to those of BT.709 as a table of colours. Many programs read
 * this text (".cube", common practice): red runs fastest. Takes about a second.
 */
export function cubeText(colours: VideoColours): string {
  const convert = toBt709(colours);
  const lines = [`LUT_3D_SIZE ${CUBE_NODES}`];
  const at = (node: number): number => node / (CUBE_NODES - 1);
  for (let blue = 0; blue < CUBE_NODES; blue++)
    for (let green = 0; green < CUBE_NODES; green++)
      for (let red = 0; red < CUBE_NODES; red++)
        lines.push(
          convert([at(red), at(green), at(blue)])
            .map((value) => value.toFixed(5))
            .join(" "),
        );
  return `${lines.join("\n")}\n`;
}

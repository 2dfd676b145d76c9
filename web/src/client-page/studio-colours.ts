import type { StudioIdentity } from "@humming-tide/contract";
import { luma } from "@humming-tide/core/numeric";
import type { CSSProperties } from "react";

/** As light as white text can still be read on it. */
const LIGHT = 150;

/** The studio's own colour in the place of the program's, with letters that are read on it. */
export function studioColours({ accent }: StudioIdentity): CSSProperties {
  if (accent === null) return {};
  const [red, green, blue] = [1, 3, 5].map((at) => Number.parseInt(accent.slice(at, at + 2), 16)) as [
    number,
    number,
    number,
  ];
  const ink = luma(red, green, blue) > LIGHT ? "#111111" : "#ffffff";
  return { "--lantern": accent, "--lantern-ink": ink } as CSSProperties;
}

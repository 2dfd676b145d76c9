import type { StyleWishes } from "../style/index.ts";

/** A fill that is a picture, and graphics of one's own, stay with their show. */
export const withoutMedia = <T extends Pick<StyleWishes, "fill" | "shapeFills" | "graphic">>(
  style: T,
  instead: Pick<T, "fill" | "graphic">,
): T => ({
  ...style,
  ...(style.fill?.kind === "picture" ? { fill: instead.fill } : {}),
  shapeFills: style.shapeFills.filter(({ fill }) => fill.kind !== "picture"),
  ...(style.graphic?.kind === "own" ? { graphic: instead.graphic } : {}),
});

import type { WordPlace } from "../show/index.ts";
import type { Rectangle, Size } from "./geometry.ts";

/**
 * Shares of a frame's width and height in which action and titles are safe on any screen: SMPTE ST
 * 2046-1:2009 for 16:9 pictures (93 % and 90 %). The same shares for other shapes are our own rule.
 */
export const SAFE_SHARES = { action: 0.93, title: 0.9 } as const;

/** The part of a frame that is safe, in its middle. */
export function safeArea({ width, height }: Size, kind: keyof typeof SAFE_SHARES): Rectangle {
  const share = SAFE_SHARES[kind];
  return {
    x: ((1 - share) / 2) * width,
    y: ((1 - share) / 2) * height,
    width: share * width,
    height: share * height,
  };
}

/** Where a place lies: 0 at the left and the top, 1 at the right and the bottom. */
export const placeShares = (place: WordPlace): { readonly x: number; readonly y: number } => ({
  x: place.endsWith("left") ? 0 : place.endsWith("right") ? 1 : 0.5,
  y: place.startsWith("top") ? 0 : place.startsWith("bottom") ? 1 : 0.5,
});

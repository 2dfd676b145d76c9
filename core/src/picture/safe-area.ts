import type { WordPlace } from "../show/index.ts";
import type { Rectangle, Size } from "./geometry.ts";

export const SAFE_KINDS = ["action", "title"] as const;
type SafeKind = (typeof SAFE_KINDS)[number];

/**
 * Shares of a frame's width and height in which action and titles are safe on any screen: SMPTE ST
 * 2046-1:2009 for 16:9 pictures (93 % and 90 %). The same shares for other shapes are our own rule.
 */
const SAFE_SHARES: Readonly<Record<SafeKind, number>> = { action: 0.93, title: 0.9 };

/**
 * Films for phones held upright are narrower than this. Their pages lay a heading over the top,
 * text over the bottom and buttons over a side: titles stay off them. Both sides have the same
 * margin, so that the middle stays the middle. Common practice; the values are from memory.
 */
const PHONE_ASPECT = 0.65;
const PHONE_MARGINS = { top: 0.14, bottom: 0.2, side: 0.11 };

/** The part of a frame that is safe, in pixels. */
export function safeArea({ width, height }: Size, kind: SafeKind): Rectangle {
  if (kind === "title" && width / height < PHONE_ASPECT) {
    const { top, bottom, side } = PHONE_MARGINS;
    return { x: side * width, y: top * height, width: (1 - 2 * side) * width, height: (1 - top - bottom) * height };
  }
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

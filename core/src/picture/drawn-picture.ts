import { itemAt } from "../presence/index.ts";
import type { Turn } from "../show/index.ts";
import type { Size } from "./geometry.ts";

/**
 * Name of a picture as it is drawn: its content hash, and how far a person turned it. Turned pixels
 * are made once and kept under this name, so stage, thumbnails and export draw the very same ones.
 */
export const drawnPicture = (sha256: string, turn: Turn): string => (turn === 0 ? sha256 : `${sha256}-${turn}`);

/** What a name stands for; null for a text that is no such name. */
export function parseDrawnPicture(name: string): { readonly sha256: string; readonly turn: Turn } | null {
  const match = /^([0-9a-f]{64})(?:-(90|180|270))?$/.exec(name);
  return match ? { sha256: itemAt(match, 1), turn: Number(match[2] ?? 0) as Turn } : null;
}

/** A size after turning. */
export const turnedSize = ({ width, height }: Size, turn: Turn): Size =>
  turn % 180 === 0 ? { width, height } : { width: height, height: width };

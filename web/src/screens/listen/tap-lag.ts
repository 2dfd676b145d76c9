import type { TapLag } from "@humming-tide/core/grid";
import { z } from "zod";

/**
 * A person's lag belongs to the person and the device, not to a show: it is kept in the browser.
 */
const KEY = "humming-tide tap-lag";

const schema = z.object({ medianSeconds: z.number(), spreadSeconds: z.number(), count: z.number() });

/** What was measured here, or null. */
export function storedTapLag(): TapLag | null {
  try {
    return schema.parse(JSON.parse(localStorage.getItem(KEY) ?? "null"));
  } catch {
    return null;
  }
}

export function storeTapLag(lag: TapLag): void {
  localStorage.setItem(KEY, JSON.stringify(lag));
}

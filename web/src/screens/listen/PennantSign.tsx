import type { Marker } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { PENNANT_HEIGHT, PENNANT_WIDTH, pennant } from "../../ui/pennant.ts";

/** The flag as it flies over the curve, beside the words that say the same. */
export function PennantSign({ marker }: { marker: Pick<Marker, "origin" | "kind"> }): ReactNode {
  const { outline, fill } = pennant(marker);
  return (
    <svg
      viewBox={`-1 -1 ${PENNANT_WIDTH + 2} ${PENNANT_HEIGHT + 6}`}
      className="h-4 w-[13px] shrink-0 text-foam"
      aria-hidden
    >
      <path d={fill} fill="currentColor" />
      <path d={outline} fill="none" stroke="currentColor" strokeWidth="1.3" strokeLinejoin="round" />
      <path d={`M0 0V${PENNANT_HEIGHT + 4}`} stroke="currentColor" strokeWidth="1.3" strokeLinecap="round" />
    </svg>
  );
}

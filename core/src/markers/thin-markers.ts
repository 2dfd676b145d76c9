import { indexOfNearestBeat } from "../grid/index.ts";
import type { Stretch } from "../music/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Marker, MarkerOrigin } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";

/** A marker farther than this from an accent is not on it. */
export const ACCENT_REACH_SECONDS = 0.07;

interface ThinningWish {
  /**
   * In rising order; a marker belongs to the place that is nearest to it (the earlier of two
   * equally near).
   */
  readonly places: readonly { readonly seconds: Seconds }[];
  /** Where markers are farther from their place than this they go; null: however far. */
  readonly reachSeconds: Seconds | null;
  /** Only markers in here, start inclusive and end exclusive. */
  readonly within: Stretch;
  /** Only markers that came from here. */
  readonly origins: ReadonlySet<MarkerOrigin>;
}

/**
 * At most one marker a place: the one nearest to it, the earlier of two equally near. Sections and
 * notes stay whatever lies about them, and so do markers out of the stretch or of other origins.
 * Where there are no places, nothing is known and everything stays. O(markers log places).
 */
export function thinnedMarkers(
  markers: readonly Marker[],
  { places, reachSeconds, within, origins }: ThinningWish,
): Marker[] {
  if (places.length === 0) return [...markers];
  const nearest = new Map<number, { id: string; distance: number }>();
  const thinned = new Set<string>();
  for (const { id, seconds, kind, origin } of markers) {
    const isInside = seconds >= within.startSeconds && seconds < within.endSeconds;
    if (!isInside || !origins.has(origin) || kind === "section" || kind === "note") continue;
    const place = indexOfNearestBeat(places, seconds);
    const distance = Math.abs(itemAt(places, place).seconds - seconds);
    const rival = nearest.get(place);
    if ((reachSeconds !== null && distance > reachSeconds) || (rival && rival.distance <= distance)) thinned.add(id);
    else {
      if (rival) thinned.add(rival.id);
      nearest.set(place, { id, distance });
    }
  }
  return markers.filter(({ id }) => !thinned.has(id));
}

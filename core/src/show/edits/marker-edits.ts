import type { Seconds } from "../../time/index.ts";
import { type Marker, MOST_MARKERS } from "../document/index.ts";
import { showError } from "../show-errors.ts";

/**
 * Edits of a song's markers: pure. Lists are in rising order of time; of equal times, the one that
 * came first stands first.
 */

/** Of one kind nearer to each other than this, two markers are the same. */
const SAME_SECONDS = 0.02;

/**
 * Adds markers; one whose kind already stands within 20 ms is left out. Ids are given here. Throws
 * `too-many-markers` beyond MOST_MARKERS. O((markers + added) log).
 */
export function withMarkers(markers: readonly Marker[], added: readonly Omit<Marker, "id">[]): Marker[] {
  let number = markers.reduce((highest, { id }) => Math.max(highest, Number(/^m(\d+)$/.exec(id)?.[1] ?? 0)), 0);
  const sorted = inOrder([...markers, ...inOrder(added).map((marker) => ({ ...marker, id: "" }))]);
  const lastOfKind = new Map<string, Marker>();
  const result: Marker[] = [];
  for (const marker of sorted) {
    const before = lastOfKind.get(marker.kind);
    const isSame = before !== undefined && marker.seconds - before.seconds < SAME_SECONDS;
    if (isSame && marker.id === "") continue;
    // What was there stays, whatever came a moment earlier with the new ones.
    if (isSame && before.id === "") result.splice(result.lastIndexOf(before), 1);
    result.push(marker);
    lastOfKind.set(marker.kind, marker);
  }
  if (result.length > MOST_MARKERS) {
    throw showError("too-many-markers", { markers: result.length, most: MOST_MARKERS });
  }
  return result.map((marker) => (marker.id === "" ? { ...marker, id: `m${++number}` } : marker));
}

/** Moves, renames a marker or gives it another kind; where it came from stays. */
export function changeMarker(
  markers: readonly Marker[],
  id: string,
  change: Partial<Pick<Marker, "seconds" | "name" | "kind">>,
): Marker[] {
  return inOrder(markers.map((marker) => (marker.id === id ? { ...marker, ...change } : marker)));
}

/** The markers without those of these ids. */
export function withoutMarkers(markers: readonly Marker[], ids: ReadonlySet<string>): Marker[] {
  return markers.filter(({ id }) => !ids.has(id));
}

function inOrder<Mark extends { readonly seconds: Seconds }>(markers: readonly Mark[]): Mark[] {
  return markers.toSorted((a, b) => a.seconds - b.seconds);
}

export { detectedMarkers, MARKER_SPACINGS, type MarkerSpacing, markerPlaces } from "./marker-places.ts";
export { ACCENT_REACH_SECONDS, thinnedMarkers } from "./thin-markers.ts";

export { arrangeSongs, levelGain } from "./arrange-songs.ts";
export type { ArrangedBridge, ArrangedMusic, ArrangedSong, MusicPiece } from "./arranged-music.ts";
export { counterpartSeconds, type SongWithAnalysis } from "./counterpart.ts";
export { joinLikeness, type LengthWish, type Rearrangement, rearrange, type SongBars, songBars } from "./rearrange.ts";
export { sectionNames } from "./section-names.ts";
export { filmSecondsOf, songPlaceAt } from "./song-places.ts";
export { heardSections, type PlayedSection, ROLE_WORDS, sectionsOf } from "./song-sections.ts";
export { type SongRun, type SongTimeline, songTimeline } from "./song-timeline.ts";

export { buildDemo, type DemoOptions } from "./build-demo.ts";
export { composeSong, type SongPlan, type SongTruth, SONGS } from "./music/songs.ts";
export { writeWav } from "./music/wav.ts";
export { type AlbumPicture, album } from "./pictures/album.ts";

export { buildDemo, type DemoOptions } from "./build-demo.ts";
export { composeSong, SONGS, type SongPlan, type SongTruth } from "./music/songs.ts";
export { type AlbumPicture, album } from "./pictures/album.ts";

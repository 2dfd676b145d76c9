export { type FilmProgress, makeFilm } from "./export/make-film.ts";
export { verifyFilm } from "./export/verify-film.ts";
export { decodeMono } from "./media/decode-sound.ts";
export { findFfmpeg, inputFile, startFfmpeg } from "./media/ffmpeg.ts";
export { takeInPicture } from "./media/picture-intake.ts";
export { openPackage, readPackedShow, writePackage } from "./package/index.ts";
export { readSettings, type Settings } from "./settings.ts";
export { openStudio, type RunningServer, type Studio, startServer } from "./start-server.ts";

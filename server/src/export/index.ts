export { drawnFile } from "../media/drawn-file.ts";
export { ClipFrames } from "./clip-frames.ts";
export { drawStill } from "./draw-still.ts";
export { encodeFilm, rawVideoInput, videoEncoding } from "./encode-film.ts";
export { type FilmProgress, makeFilm } from "./make-film.ts";
export { PictureCache } from "./picture-cache.ts";
export { renderFrames } from "./render-frames.ts";
export { verifyFilm } from "./verify-film.ts";
export { writeMix } from "./write-mix.ts";

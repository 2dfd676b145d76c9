/** Endings of cameras' RAW files, which browsers do not count as pictures. */
const RAW_FILES = ".dng,.cr2,.cr3,.nef,.arw,.orf,.raf,.rw2";

/** What a file dialog offers where something to see is asked for. */
export const SEEN_FILES = `image/*,video/mp4,video/webm,.heic,.heif,.avif,.mov,${RAW_FILES}`;
/** The same with songs and voices. */
export const ALL_FILES = `${SEEN_FILES},audio/*,.m4a,.flac,.ogg,.mp3,.wav`;

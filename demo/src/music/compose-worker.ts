// Composes one of the songs on a thread of its own; its data is the song's place in SONGS.
import { parentPort, workerData } from "node:worker_threads";
import { composeSong, SONGS } from "./songs.ts";

parentPort!.postMessage(composeSong(SONGS[workerData as number]!));

// Composes one of the songs on a thread of its own; its data is the song's place in SONGS.

import { parentPort, workerData } from "node:worker_threads";
import { itemAt, present } from "@humming-tide/core/presence";
import { composeSong, SONGS } from "./songs.ts";

present(parentPort).postMessage(composeSong(itemAt(SONGS, workerData as number)));

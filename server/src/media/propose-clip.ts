import { type ClipFacts, clipProposalSchema, type StoredProposal } from "@humming-tide/contract";
import { type FrameSize, WATCHED_RATE, watchedSize } from "@humming-tide/core/clip-analysis";
import { ClipWatcher } from "../workers/clip-watcher.ts";
import { faceSights } from "./clip-faces.ts";
import { clipTimes } from "./clip-times.ts";
import { rawFrames } from "./raw-frames.ts";
import { stereoPieces } from "./stereo-pieces.ts";

/** File among those made of a clip. */
export const PROPOSAL_FILE = "proposal.json";
/** A proposal of another version is made again. */
const PROPOSAL_VERSION = 1;

/** Shares of the whole work, about as long as they take. */
const FRAMES_DONE = 0.5;
const SOUND_DONE = 0.6;

/** Frames that are given to the thread at a time. */
const BATCH = 25;

/**
 * Looks a clip through: its moments, what may be cut off at its ends, and the best stretches of a
 * long one. `file` is the clip or its playable copy. `onProgress` hears 0 to 1. Throws
 * `ffmpeg-failed`.
 */
export async function proposeClip(
  file: string,
  clip: ClipFacts,
  onProgress: (share: number) => void,
): Promise<StoredProposal> {
  const size = watchedSize(clip);
  const watcher = new ClipWatcher(size);
  try {
    await watch(file, size, watcher, (seconds) => onProgress((FRAMES_DONE * seconds) / clip.durationSeconds));
    const isHeard = clip.sound !== null && (await hear(file, watcher));
    onProgress(SOUND_DONE);
    const faces = await faceSights(file, clip, clip.durationSeconds, (share) =>
      onProgress(Math.min(1, SOUND_DONE + (1 - SOUND_DONE) * share)),
    );
    return { version: PROPOSAL_VERSION, ...(await watcher.proposal(isHeard, faces)) };
  } finally {
    await watcher.close();
  }
}

async function watch(
  file: string,
  size: FrameSize,
  watcher: ClipWatcher,
  onSeconds: (seconds: number) => void,
): Promise<void> {
  let batch: Buffer[] = [];
  let count = 0;
  const give = async (): Promise<void> => {
    await watcher.addFrames(new Uint8Array(Buffer.concat(batch)));
    onSeconds(count / WATCHED_RATE);
    batch = [];
  };
  for await (const frame of rawFrames(file, { ...size, rate: WATCHED_RATE, pixels: "gray" })) {
    batch.push(frame);
    count++;
    if (batch.length === BATCH) await give();
  }
  if (batch.length > 0) await give();
}

/** False where the sound is damaged: the clip still has its pictures. It counts from the first. */
async function hear(file: string, watcher: ClipWatcher): Promise<boolean> {
  const { firstSeconds } = await clipTimes(file);
  try {
    for await (const sound of stereoPieces(file, firstSeconds)) await watcher.addSound(sound);
    return true;
  } catch (error) {
    if ((error as { code?: string }).code === "ffmpeg-failed") return false;
    throw error;
  }
}

/** A proposal as it was written; null where it is damaged or of another version. */
export function readProposal(text: string): StoredProposal | null {
  try {
    const proposal = clipProposalSchema.parse(JSON.parse(text));
    return proposal.version === PROPOSAL_VERSION ? proposal : null;
  } catch {
    return null;
  }
}

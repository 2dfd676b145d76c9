import { type ClipFacts, clipProposalSchema, type StoredProposal } from "@humming-tide/contract";
import { CrowdMeter, type CrowdSound, clipProposal } from "@humming-tide/core/clip-analysis";
import { watchFrames } from "../workers/watch-frames.ts";
import { faceSights } from "./clip-faces.ts";
import { clipTimes } from "./clip-times.ts";
import { FILM_SAMPLE_RATE } from "./decode-sound.ts";
import { stereoPieces } from "./stereo-pieces.ts";

/** File among those made of a clip. */
export const PROPOSAL_FILE = "proposal.json";
/** A proposal of another version is made again. */
const PROPOSAL_VERSION = 1;

/** Shares of the whole work, about as long as they take. */
const FRAMES_DONE = 0.5;
const SOUND_DONE = 0.6;

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
  const seen = await watchFrames(file, clip, (seconds) => onProgress((FRAMES_DONE * seconds) / clip.durationSeconds));
  const heard = clip.sound ? await crowdSound(file).catch(nullWhereUnreadable) : null;
  onProgress(SOUND_DONE);
  const faces = await faceSights(file, clip, clip.durationSeconds, (share) =>
    onProgress(Math.min(1, SOUND_DONE + (1 - SOUND_DONE) * share)),
  );
  return { version: PROPOSAL_VERSION, ...clipProposal({ seen, heard, faces }) };
}

/** A clip whose sound is damaged still has its pictures. */
function nullWhereUnreadable(error: unknown): null {
  if ((error as { code?: string }).code !== "ffmpeg-failed") throw error;
  return null;
}

/** The sound counts from the first picture. */
async function crowdSound(file: string): Promise<CrowdSound> {
  const { firstSeconds } = await clipTimes(file);
  const meter = new CrowdMeter(FILM_SAMPLE_RATE);
  for await (const [left, right] of stereoPieces(file, firstSeconds)) meter.add(left, right);
  return meter.result();
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

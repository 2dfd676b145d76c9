import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import type { StoredProposal } from "@humming-tide/contract";
import { proposeClip, takeInClip } from "@humming-tide/server";
import { type EventfulClip, type EventKind, makeEventfulClip } from "./eventful-clips.ts";

const CLIPS_OF_A_KIND = 20;
/** A proposal this near to the event is right. */
const NEAR_SECONDS = 0.2;

/**
 * The moment that is proposed for made-up clips, against the one event that happens in each, and
 * the trims of shaky ends. `first` is the first seed: others than the ones it was built on.
 */
export async function benchMoments(first = "1"): Promise<void> {
  const folder = await mkdtemp(path.join(tmpdir(), "moments-"));
  const spent = { cpuSeconds: 0, clipSeconds: 0 };
  try {
    for (const kind of ["movement", "crowd", "face"] as const) {
      const tried: Tried[] = [];
      for (let i = 0; i < CLIPS_OF_A_KIND; i++) tried.push(await tryOne(kind, Number(first) + i, folder, spent));
      report(kind, tried);
    }
    const share = spent.cpuSeconds / spent.clipSeconds;
    console.log(`time: ${share.toFixed(2)} s of this program's processors for a second of a clip`);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

interface Tried {
  readonly seed: number;
  readonly clip: EventfulClip;
  readonly proposal: StoredProposal;
}

async function tryOne(
  kind: EventKind,
  seed: number,
  folder: string,
  spent: { cpuSeconds: number; clipSeconds: number },
): Promise<Tried> {
  const file = path.join(folder, `${kind} ${seed}.mp4`);
  const clip = await makeEventfulClip(kind, seed, file);
  const facts = await takeInClip(file, folder);
  const before = process.cpuUsage();
  const proposal = await proposeClip(
    file,
    { ...facts, kind: "clip", sha256: "", fileName: "", bytes: 1, mime: "video/mp4" },
    () => undefined,
  );
  const { user, system } = process.cpuUsage(before);
  spent.cpuSeconds += (user + system) / 1e6;
  spent.clipSeconds += clip.seconds;
  await rm(file);
  return { seed, clip, proposal };
}

function report(kind: EventKind, tried: readonly Tried[]): void {
  const share = (isRight: (one: Tried) => boolean, of = tried): string =>
    `${of.filter(isRight).length} of ${of.length}`;
  const isNear = (seconds: number | undefined, { clip }: Tried): boolean =>
    seconds !== undefined && Math.abs(seconds - clip.eventSeconds) <= NEAR_SECONDS;
  const isFirst = (one: Tried): boolean => isNear(one.proposal.moments[0]?.seconds, one);
  console.log(
    `${kind}: the first moment within ${NEAR_SECONDS} s in ${share(isFirst)}; the first of its kind in ${share((one) =>
      isNear(one.proposal.moments.find((moment) => moment.kind === kind)?.seconds, one),
    )}`,
  );
  for (const one of tried.filter((each) => !isFirst(each))) console.log(`  ${one.seed}: ${missed(one)}`);
  const starts = tried.map(({ clip, proposal }) => ({
    // A second of rest before something moves is left.
    truth: Math.max(clip.shakyStartSeconds, clip.deadStartSeconds && clip.deadStartSeconds - 1),
    proposed: proposal.start?.seconds ?? 0,
  }));
  const ends = tried.map(({ clip, proposal }) => ({
    truth: clip.shakyEndSeconds,
    proposed: proposal.end?.seconds ?? 0,
  }));
  console.log(`  start: ${trimText(starts)}\n  end: ${trimText(ends)}`);
}

function trimText(ends: readonly { readonly truth: number; readonly proposed: number }[]): string {
  const bad = ends.filter(({ truth }) => truth > 0);
  const right = bad.filter(({ truth, proposed }) => Math.abs(truth - proposed) <= NEAR_SECONDS);
  const good = ends.filter(({ truth }) => truth === 0);
  const kept = good.filter(({ proposed }) => proposed === 0);
  return `${right.length} of ${bad.length} bad ones trimmed within ${NEAR_SECONDS} s, ${kept.length} of ${good.length} good ones kept`;
}

const missed = ({ clip, proposal }: Tried): string =>
  `at ${clip.eventSeconds.toFixed(2)} s; proposed ${proposal.moments
    .map(({ kind, seconds, strength }) => `${kind} ${seconds.toFixed(2)} (${strength.toFixed(2)})`)
    .join(", ")}`;

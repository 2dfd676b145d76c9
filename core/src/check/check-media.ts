import type { ShowDocument } from "../show/index.ts";
import { hasPicture, slideName, voiceName } from "../show/index.ts";
import type { Finding } from "./finding.ts";

/** What was found where a show's file should be: nothing, or other content than came in. */
export type MediaTrouble = "missing" | "changed";

/**
 * Files that are missing or have changed on disk; `trouble` by content hash, for files that are
 * well absent.
 */
export function checkMedia(show: ShowDocument, trouble: ReadonlyMap<string, MediaTrouble>): Finding[] {
  const findings: Finding[] = [];
  const find = (sha256: string, name: string, slideId: string | null, fixes: Finding["fixes"], use: string): void => {
    const kind = trouble.get(sha256);
    if (!kind) return;
    findings.push({
      kind: `media-${kind}`,
      severity: "error",
      place: { slotIndex: null, slideId, seconds: null, outputs: [] },
      values: { name, use },
      fixes,
    });
  };
  for (const slide of show.slides) {
    if (!hasPicture(slide) || slide.rating === "out") continue;
    const leaveOut: Finding["fixes"] = [{ kind: "leaveOut", slideId: slide.id }];
    find(slide.sha256, slideName(slide), slide.id, leaveOut, "a slide");
    for (const { sha256, fileName } of slide.more)
      find(sha256, fileName, slide.id, leaveOut, "beside others on a slide");
  }
  for (const { sha256, fileName } of show.songs) find(sha256, fileName, null, [], "a song");
  for (const voice of show.voices)
    for (const { sha256 } of voice.takes)
      find(sha256, `“${voiceName(voice)}”`, null, [{ kind: "removeVoice", voiceId: voice.id }], "a voice");
  return findings;
}

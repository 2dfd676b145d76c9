import { counted } from "../language/index.ts";
import type { ShowDocument } from "../show/index.ts";
import type { Finding, Severity } from "./finding.ts";
import { applyFix, type Fix } from "./fix.ts";

/** Findings of one kind that weigh the same, in the order in which they were given. */
export interface FindingGroup {
  readonly kind: Finding["kind"];
  readonly severity: Severity;
  readonly findings: readonly Finding[];
}

/** Groups in the order of their first finding. O(findings). */
export function findingGroups(findings: readonly Finding[]): FindingGroup[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key = `${finding.severity} ${finding.kind}`;
    const group = groups.get(key);
    if (group) group.push(finding);
    else groups.set(key, [finding]);
  }
  return [...groups.values()].flatMap((group) => {
    const [first] = group;
    return first ? [{ kind: first.kind, severity: first.severity, findings: group }] : [];
  });
}

/**
 * The group in a few words: "9 pictures look soft". A slide that is shown several times counts
 * once.
 */
export function groupText({ kind, findings }: Pick<FindingGroup, "kind" | "findings">): string {
  const count = new Set(findings.map(({ place }, i) => place.slideId ?? i)).size;
  const are = (one: string, what: string, many?: string): string => `${counted(count, one, many)} ${what}`;
  switch (kind) {
    case "lock":
      return are("lock", count === 1 ? "is not kept" : "are not kept");
    case "landing":
      return are("change", count === 1 ? "is off its landing" : "are off their landings");
    case "slide-short":
      return are("slide", count === 1 ? "is seen too briefly" : "are seen too briefly");
    case "words-short":
      return are("slide", count === 1 ? "has words that go too soon" : "have words that go too soon");
    case "enlarged":
      return are("picture", count === 1 ? "looks soft" : "look soft");
    case "head-cut":
      return are("picture", count === 1 ? "has a cut head" : "have a cut head");
    case "words-empty":
      return are("slide", count === 1 ? "has empty words" : "have empty words");
    case "words-on-face":
      return are("slide", count === 1 ? "has words on a face" : "have words on a face");
    case "subject-cut":
      return are("picture", count === 1 ? "loses its subject" : "lose their subject");
    case "bars":
      return are("slide", count === 1 ? "has dark bars" : "have dark bars");
    case "narrow-gap":
      return are("slide", count === 1 ? "leaves a narrow strip" : "leave a narrow strip");
    case "media-missing":
      return are("file", count === 1 ? "is missing" : "are missing");
    case "media-changed":
      return are("file", count === 1 ? "has changed on the disk" : "have changed on the disk");
    case "flashes":
      return are("stretch", count === 1 ? "flashes too often" : "flash too often", "stretches");
    case "flash-refused":
      return are("light flash", count === 1 ? "is a dissolve instead" : "are dissolves instead", "light flashes");
    case "music-cut":
    case "fade-off-bar":
    case "loudness":
    case "true-peak":
    case "sound":
      return are("thing", "about the sound");
  }
}

/** A kind of fix that puts all of a group right, and what it does to each. */
export interface GroupFix {
  readonly kind: Fix["kind"];
  readonly label: string;
  readonly fixes: readonly Fix[];
}

/**
 * What puts all of a group right at one go, the best first. A slide that is shown several times is
 * put right once. O(findings).
 */
export function groupFixes({ kind, findings }: FindingGroup): GroupFix[] {
  if (findings.length < 2) return [];
  const offered = new Map(findings.flatMap(({ fixes }) => fixes.map((fix) => [fix.kind, fix] as const)));
  return [...offered.values()].flatMap((example) => {
    const fixes: Fix[] = [];
    const fixed = new Set<string | null>();
    for (const finding of findings) {
      const fix = finding.fixes.find((one) => one.kind === example.kind);
      if (!fix || (finding.place.slideId !== null && fixed.has(finding.place.slideId))) continue;
      fixes.push(fix);
      fixed.add(finding.place.slideId);
    }
    const isAll = findings.every(({ place, fixes: own }) =>
      place.slideId === null ? own.some(({ kind: one }) => one === example.kind) : fixed.has(place.slideId),
    );
    return isAll ? [{ kind: example.kind, label: labelForAll(kind, example), fixes }] : [];
  });
}

function labelForAll(finding: Finding["kind"], fix: Fix): string {
  switch (fix.kind) {
    case "stand":
      return "Let all stand long enough";
    case "leaveOut":
      return "Leave all of them out";
    case "view":
      return finding === "bars" ? "Cut all bars off" : "Show all smaller, on their fill";
    case "frameByRule":
      return "Frame all automatically";
    case "showWhole":
      return "Show all of each";
    case "moveWords":
      return "Move all words to a free place";
    case "dissolve":
      return "Dissolve at all of them";
    case "unlock":
      return "Free all of them";
    case "fadeByRule":
      return "Fade where the rule has it";
    case "loudness":
      return "Bring all to that loudness";
    case "removeVoice":
      return "Remove these voices";
  }
}

/** The edit that puts all right; what a fix names and an earlier one took away stays as it is. */
export const applyFixes = (show: ShowDocument, fixes: readonly Fix[]): ShowDocument => fixes.reduce(applyFix, show);

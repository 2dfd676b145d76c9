import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import type { SongSection } from "../document/index.ts";

/**
 * Changes to the sections of a song, as whole lists in order of time: what a person decided stays
 * as it is, whatever is heard in the song later.
 */

/** Names a section or gives it a role. An index that is not there changes nothing. */
export const changeSection = (
  sections: readonly SongSection[],
  index: number,
  change: Partial<Pick<SongSection, "name" | "role">>,
): SongSection[] => sections.map((section, i) => (i === index ? { ...section, ...change } : section));

/** Joins a section to the one before it, whose name and role stay. The first has none before it. */
export const joinSection = (sections: readonly SongSection[], index: number): SongSection[] =>
  sections.filter((_, i) => i !== index || i === 0);

/** Sections that begin nearer to each other than this are one. */
const SHORTEST_SECTION_SECONDS = 0.5;

/**
 * Divides a section at a moment of the song: the later part has the same letter, and no name or
 * role of its own. Nothing changes where a section begins already, before the first of them, or
 * where there are as many as a song may have.
 */
export function splitSection(sections: readonly SongSection[], seconds: Seconds, most: number): SongSection[] {
  const index = sections.findLastIndex(({ startSeconds }) => startSeconds <= seconds);
  const isNear = sections.some(({ startSeconds }) => Math.abs(startSeconds - seconds) < SHORTEST_SECTION_SECONDS);
  if (index < 0 || isNear || sections.length >= most) return [...sections];
  const { letter } = itemAt(sections, index);
  return sections.toSpliced(index + 1, 0, { startSeconds: seconds, letter, name: "", role: null });
}

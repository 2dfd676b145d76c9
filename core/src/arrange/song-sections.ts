import type { MusicAnalysis } from "../music/index.ts";
import type { SectionRole, ShowSong, SongSection } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";

/** What a role is called. */
export const ROLE_WORDS: Readonly<Record<SectionRole, string>> = {
  intro: "Intro",
  verse: "Verse",
  chorus: "Chorus",
  bridge: "Bridge",
  break: "Break",
  end: "End",
};

/** A section of a song with its end, which is the start of the next. Seconds of the song. */
export interface PlayedSection extends SongSection {
  readonly endSeconds: Seconds;
  /** Its own name, else its role, else its letter. */
  readonly label: string;
}

/** The sections of a song as they were heard, before anybody changed them. */
export const heardSections = ({ sections }: Pick<MusicAnalysis, "sections">): SongSection[] =>
  sections.map(({ startSeconds, label }) => ({ startSeconds, letter: label, name: "", role: null }));

/** The sections of a song: as a person has them, else as they were heard. */
export function sectionsOf(
  song: Pick<ShowSong, "sections">,
  analysis: Pick<MusicAnalysis, "sections" | "musicEndSeconds">,
): PlayedSection[] {
  const sections = song.sections ?? heardSections(analysis);
  const end = analysis.sections.at(-1)?.endSeconds ?? analysis.musicEndSeconds;
  return sections.map((section, i) => ({
    ...section,
    endSeconds: sections[i + 1]?.startSeconds ?? Math.max(end, section.startSeconds),
    label: section.name || (section.role ? ROLE_WORDS[section.role] : section.letter),
  }));
}

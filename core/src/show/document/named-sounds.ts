import { itemAt } from "../../presence/index.ts";
import type { ShowDocument } from "./document.ts";
import type { VoiceTake } from "./voice.ts";

/** Recordings of all voices, also those that are not heard now, each once. */
export const namedTakes = ({ voices }: Pick<ShowDocument, "voices">): VoiceTake[] => [
  ...new Map(voices.flatMap(({ takes }) => takes).map((take) => [take.sha256, take])).values(),
];

/**
 * Content of every sound that is heard in a show's film: songs, the chosen takes of voices, and
 * clips that are not muted.
 */
export function heardSounds({ songs, voices, slides }: Pick<ShowDocument, "songs" | "voices" | "slides">): string[] {
  const clips = slides.filter(({ sound }) => sound !== null && sound.kind !== "muted");
  return [
    ...new Set([
      ...songs.map(({ sha256 }) => sha256),
      ...voices.map(({ takes, take }) => itemAt(takes, take).sha256),
      ...clips.flatMap(({ sha256 }) => (sha256 === null ? [] : [sha256])),
    ]),
  ];
}

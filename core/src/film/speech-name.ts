import { itemAt } from "../presence/index.ts";
import type { ShowDocument } from "../show/index.ts";
import { soundName } from "../sound/index.ts";

/**
 * Under which name what is heard of a sound is asked for (core/sound, soundName). In a voice words
 * are looked for, also where its file came in as a song; in the music of a show they are not.
 */
export function speechName({ voices }: Pick<ShowDocument, "voices">, sha256: string): string {
  const isVoice = voices.some(({ takes, take }) => itemAt(takes, take).sha256 === sha256);
  return soundName(sha256, isVoice ? "spoken" : "song");
}

import { songPlaceAt } from "@humming-tide/core/arrange";
import type { Stretch } from "@humming-tide/core/music";
import { useMemo } from "react";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppSelector } from "../../store/store.ts";
import { useListenSong } from "./listen-song.tsx";

export interface NamedStretch extends Stretch {
  readonly id: string;
  readonly name: string;
}

/**
 * What of the song something can be done to: all of it, the loop, and what each passage of the film
 * plays over. Seconds of the song.
 */
export function useSongStretches(): readonly NamedStretch[] {
  const { song, analysis } = useListenSong();
  const loop = useAppSelector((state) => state.view.listening.loop);
  const plan = useAppSelector((state) => state.view.plan);
  const show = useOpenShow();
  return useMemo(() => {
    const stretches: NamedStretch[] = [
      { id: "whole", name: "the whole song", startSeconds: 0, endSeconds: analysis.durationSeconds },
    ];
    if (loop) stretches.push({ id: "loop", name: "the loop", ...loop });
    if (!plan || show.passages.length < 2) return stretches;
    const passageOf = new Map(show.slides.map((slide) => [slide.id, slide.passageId]));
    const frameSeconds = plan.rate.den / plan.rate.num;
    for (const [index, { id, name }] of show.passages.entries()) {
      // Where the song is heard several times, or the passage is, all that is heard of it.
      const heard = plan.slots
        .filter((slot) => passageOf.get(slot.slideId) === id)
        .flatMap((slot) => [slot.landing?.seconds ?? slot.startFrame * frameSeconds, slot.endFrame * frameSeconds])
        .flatMap((filmSeconds) => {
          const place = songPlaceAt(plan.music, filmSeconds);
          return place?.songId === song.id ? [place.seconds] : [];
        });
      if (heard.length > 1) {
        stretches.push({
          id: `passage ${id}`,
          name: `passage ${index + 1}${name ? `, ${name}` : ""}`,
          startSeconds: Math.min(...heard),
          endSeconds: Math.max(...heard),
        });
      }
    }
    return stretches;
  }, [analysis.durationSeconds, loop, plan, show, song.id]);
}

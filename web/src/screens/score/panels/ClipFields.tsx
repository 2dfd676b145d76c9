import { type ClipPart, changeSlides, FASTEST_CLIP, SLOWEST_CLIP, type Slide } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { edit } from "../../../store/edit.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { NumberLine } from "../../../ui/NumberLine.tsx";
import { ClipProposals } from "./ClipProposals.tsx";

/**
 * Which part of a clip may be shown, and the moment in it that should land on an accent. Nothing
 * for pictures.
 */
export function ClipFields({ slide }: { slide: Slide }): ReactNode {
  const facts = useAppSelector((state) => (slide.sha256 === null ? undefined : state.show.media[slide.sha256]));
  if (facts?.kind !== "clip") return null;
  const whole = facts.durationSeconds;
  const clip: ClipPart = slide.clip ?? { inSeconds: 0, outSeconds: null, momentSeconds: null, speed: 1 };
  const out = clip.outSeconds ?? whole;
  const change = (part: Partial<ClipPart>): void =>
    edit((show) => changeSlides(show, new Set([slide.id]), { clip: { ...clip, ...part } }), "clip");
  const field = (
    label: string,
    value: number | null,
    [least, most]: readonly [number, number],
    take: (seconds: number) => void,
  ): ReactNode => (
    <NumberLine label={label} value={value} min={least} max={most} step={0.01} placeholder="none" onChange={take} />
  );
  return (
    <div className="mt-3 flex flex-col gap-2" role="group" aria-label="Part of the clip">
      <ClipProposals slide={slide} sha256={facts.sha256} durationSeconds={whole} />
      {field("Clip from, in seconds", clip.inSeconds, [0, out - 0.1], (inSeconds) => change({ inSeconds }))}
      {field("to", out, [clip.inSeconds + 0.1, whole], (outSeconds) =>
        change({ outSeconds: outSeconds >= whole ? null : outSeconds }),
      )}
      {field("Moment that lands on an accent", clip.momentSeconds, [clip.inSeconds, out], (momentSeconds) =>
        change({ momentSeconds }),
      )}
      {field("Speed, 1 as filmed", clip.speed, [SLOWEST_CLIP, FASTEST_CLIP], (speed) => change({ speed }))}
      {clip.momentSeconds !== null && (
        <Button kind="quiet" className="self-end" onClick={() => change({ momentSeconds: null })}>
          No moment
        </Button>
      )}
    </div>
  );
}

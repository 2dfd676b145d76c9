import type { FilmPlan } from "@humming-tide/core/film";
import { changeMix, type SoundMix } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { Panel } from "../../../ui/Panel.tsx";
import { Slider } from "../../../ui/Slider.tsx";

/** How far and how fast the music goes down under speech. */
export function DuckingPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const { ducking } = useOpenShow((show) => show.mix);
  const change = (part: Partial<SoundMix["ducking"]>): void =>
    edit(
      (show) => changeMix(show, { ducking: { ...show.mix.ducking, ...part } }),
      `ducking ${Object.keys(part).join()}`,
    );
  const spoken = plan.speech.reduce((sum, { startSeconds, endSeconds }) => sum + endSeconds - startSeconds, 0);
  return (
    <Panel title="Room for speech">
      <p className="mb-2 text-[13px] text-soft" data-testid="speech-facts">
        {plan.speech.length === 0
          ? "Nobody speaks in this film yet. Where a voice does, or a clip that is set to speech, the music goes down."
          : `${spoken.toFixed(1)} s of speech were found; the music goes down under just these.`}
      </p>
      <div className="flex flex-col gap-1.5">
        <Slider
          label="Lower the music by"
          text={`${ducking.decibels} dB`}
          value={ducking.decibels}
          min={0}
          max={30}
          step={1}
          onChange={(decibels) => change({ decibels })}
        />
        <Slider
          label="Fade down in"
          text={`${ducking.attackSeconds.toFixed(2)} s`}
          value={ducking.attackSeconds}
          min={0.05}
          max={2}
          step={0.05}
          onChange={(attackSeconds) => change({ attackSeconds })}
        />
        <Slider
          label="Hold for"
          text={`${ducking.holdSeconds.toFixed(1)} s`}
          value={ducking.holdSeconds}
          min={0}
          max={3}
          step={0.1}
          onChange={(holdSeconds) => change({ holdSeconds })}
        />
        <Slider
          label="Fade up in"
          text={`${ducking.releaseSeconds.toFixed(1)} s`}
          value={ducking.releaseSeconds}
          min={0.1}
          max={5}
          step={0.1}
          onChange={(releaseSeconds) => change({ releaseSeconds })}
        />
      </div>
    </Panel>
  );
}

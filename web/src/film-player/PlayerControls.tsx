import { clockText } from "@humming-tide/core/time";
import { ChevronLeft, ChevronRight, Hand, Keyboard, Maximize, Minimize, Music, Pause, Play } from "lucide-react";
import type { ReactNode } from "react";
import { ControlButton } from "./ControlButton.tsx";
import type { FilmClock } from "./film-clock.ts";

interface PlayerControlsProps {
  clock: FilmClock;
  /** How many slides are stepped through. */
  steps: number;
  seconds: number;
  isFull: boolean;
  onAct: (action: () => void) => void;
  onKeys: () => void;
  onFull: () => void;
}

/** The buttons under the line: other ones where the film is stepped by hand. */
export function PlayerControls({
  clock,
  steps,
  seconds,
  isFull,
  onAct,
  onKeys,
  onFull,
}: PlayerControlsProps): ReactNode {
  const isHand = clock.mode === "hand";
  return (
    <div className="flex items-center gap-1">
      {isHand ? (
        <>
          <ControlButton label="Slide before" onPress={() => onAct(() => clock.stepBy(-1))}>
            <ChevronLeft size={22} />
          </ControlButton>
          <ControlButton label="Next slide" onPress={() => onAct(() => clock.stepBy(1))}>
            <ChevronRight size={22} />
          </ControlButton>
        </>
      ) : (
        <ControlButton label={clock.isPlaying ? "Stop" : "Play"} onPress={() => onAct(() => clock.toggle())}>
          {clock.isPlaying ? <Pause size={20} fill="currentColor" /> : <Play size={20} fill="currentColor" />}
        </ControlButton>
      )}
      <span className="ml-2 text-[13px] tabular-nums">
        {isHand ? `Slide ${clock.step + 1} of ${steps}` : `${clockText(seconds)} / ${clockText(clock.lengthSeconds)}`}
      </span>
      <span className="flex-1" />
      <ControlButton
        label={isHand ? "Play by itself, with sound" : "Step by hand"}
        onPress={() => onAct(() => clock.setMode(isHand ? "music" : "hand"))}
      >
        {isHand ? <Music size={19} /> : <Hand size={19} />}
      </ControlButton>
      <ControlButton label="Keys" onPress={onKeys}>
        <Keyboard size={19} />
      </ControlButton>
      <ControlButton label={isFull ? "Leave the full screen" : "Full screen"} onPress={onFull}>
        {isFull ? <Minimize size={19} /> : <Maximize size={19} />}
      </ControlButton>
    </div>
  );
}

import type { HummingTideError } from "@humming-tide/core";
import { measureTapLag, type TapLag } from "@humming-tide/core/grid";
import { counted } from "@humming-tide/core/language";
import { lastOf } from "@humming-tide/core/presence";
import { plainSound } from "@humming-tide/core/sound";
import { type ReactNode, useEffect, useRef, useState } from "react";
import type { Track } from "../../stage/player.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { storeTapLag } from "./tap-lag.ts";

const CLICKS = Array.from({ length: 20 }, (_, i) => ({ seconds: 1.2 + 0.6 * i, first: i % 4 === 0 }));
const LENGTH_SECONDS = lastOf(CLICKS).seconds + 0.8;
const RATE = { num: 25, den: 1 };
/** Nothing but clicks. */
const TRACK: Track = {
  key: "calibration",
  sound: plainSound([], LENGTH_SECONDS),
  rate: RATE,
  totalFrames: Math.ceil(LENGTH_SECONDS * RATE.num),
  beats: CLICKS,
};

export const lagText = ({ medianSeconds, spreadSeconds, count }: TapLag): string => {
  const milliseconds = Math.round(1000 * Math.abs(medianSeconds));
  return `${milliseconds} ms ${medianSeconds < 0 ? "early" : "late"}, spread ${Math.round(1000 * spreadSeconds)} ms, from ${count} taps`;
};

/**
 * The person taps along with twenty clicks; what is measured holds their own lag and the delay of
 * device and speakers.
 */
export function CalibrationDialog({ onClose }: { onClose: (lag: TapLag | null) => void }): ReactNode {
  const player = usePlayer();
  const taps = useRef<number[]>([]);
  const [count, setCount] = useState(0);
  const [result, setResult] = useState<TapLag | string | null>(null);
  const [round, setRound] = useState(0);
  useEffect(() => {
    const [track, wish] = [player.track, player.wish];
    taps.current = [];
    const begin = (): void => {
      if (player.state === "ready" && player.filmSeconds() === 0) void player.play();
      else if (player.state === "ready") setResult(measured(taps.current));
    };
    player.addEventListener("state", begin);
    player.setWish({ clicks: CLICKS, clickGain: 1 });
    player.setSolo(TRACK);
    return () => {
      player.removeEventListener("state", begin);
      player.setSolo(track);
      player.setWish(wish);
    };
  }, [player, round]);
  const tap = (timeStamp: number): void => {
    if (player.state !== "playing") return;
    taps.current.push(player.heardAt(timeStamp));
    setCount(taps.current.length);
  };
  const again = (): void => {
    setResult(null);
    setCount(0);
    setRound((before) => before + 1);
  };
  return (
    <DialogBox
      open
      onClose={() => onClose(null)}
      title="How late do you tap?"
      width={440}
      actions={
        result === null ? (
          <Button onClick={() => onClose(null)}>Stop</Button>
        ) : (
          <ResultActions lag={typeof result === "string" ? null : result} onAgain={again} onUse={onClose} />
        )
      }
    >
      <TapField onTap={tap} count={count} result={result} />
    </DialogBox>
  );
}

interface ResultActionsProps {
  /** Null where it could not be measured. */
  lag: TapLag | null;
  onAgain: () => void;
  onUse: (lag: TapLag) => void;
}

/** Another round, or this lag from now on. */
function ResultActions({ lag, onAgain, onUse }: ResultActionsProps): ReactNode {
  return (
    <>
      <Button onClick={onAgain}>Try again</Button>
      {lag && (
        <Button
          kind="primary"
          onClick={() => {
            storeTapLag(lag);
            onUse(lag);
          }}
        >
          Use this
        </Button>
      )}
    </>
  );
}

interface TapFieldProps {
  onTap: (timeStamp: number) => void;
  count: number;
  result: string | TapLag | null;
}

/** Where to onTap, and what came of it. */
function TapField({ onTap, count, result }: TapFieldProps): ReactNode {
  return (
    <div
      onKeyDown={(event) => {
        if (event.key.toLowerCase() !== "t" || event.repeat) return;
        event.preventDefault();
        onTap(event.timeStamp);
      }}
    >
      <p className="mb-3 text-[14px] text-soft">
        Twenty clicks come. Tap along with <kbd>T</kbd>, or press the field, as you would to a song.
      </p>
      <button
        type="button"
        className="mb-3 flex h-24 w-full items-center justify-center rounded-lg border border-line-strong bg-high text-lg text-ink"
        onPointerDown={(event) => onTap(event.timeStamp)}
      >
        {count === 0 ? "Tap here, or T" : counted(count, "tap")}
      </button>
      <p aria-live="polite" className="min-h-5 text-[14px] text-ink">
        {typeof result === "string" ? result : result && `You tap ${lagText(result)}.`}
      </p>
    </div>
  );
}

function measured(taps: readonly number[]): TapLag | string {
  try {
    return measureTapLag(
      CLICKS.map((click) => click.seconds),
      taps,
    );
  } catch (error) {
    return (error as HummingTideError).message;
  }
}

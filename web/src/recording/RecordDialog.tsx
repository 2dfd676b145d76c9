import { present } from "@humming-tide/core/presence";
import { clockText } from "@humming-tide/core/time";
import { Circle, Square } from "lucide-react";
import { type ReactNode, useEffect, useId, useRef, useState } from "react";
import { usePlayer } from "../stage/player-context.tsx";
import { Button } from "../ui/Button.tsx";
import { DialogBox } from "../ui/DialogBox.tsx";
import { forgetRecording } from "./kept-recording.ts";
import { Microphone } from "./microphone.ts";
import { type RecordingStep, useRecording } from "./use-recording.ts";

interface RecordDialogProps {
  showId: string;
  /** The voice that another take is recorded of; null: a new voice at the playhead. */
  takeOf: { readonly id: string; readonly name: string } | null;
  onClose: () => void;
  /** Whether the recording lies in the show now. */
  onKeep: (file: File, filmSeconds: number) => Promise<boolean>;
}

/**
 * Records a voice: choose the microphone, see its level, count in, speak, listen, keep or try
 * again.
 */
export function RecordDialog({ showId, takeOf, onClose, onKeep }: RecordDialogProps): ReactNode {
  const [deviceId, setDeviceId] = useState("");
  const [playsFilm, setPlaysFilm] = useState(true);
  const [isKeeping, setKeeping] = useState(false);
  const recording = useRecording({ showId, deviceId, takeOfVoice: takeOf?.id ?? null, playsFilm });
  const { step } = recording;
  const playsId = useId();
  const isBusy = step.kind === "counting" || step.kind === "recording";
  const keep = async (): Promise<void> => {
    const taken = recording.taken();
    if (!taken) return;
    setKeeping(true);
    const isKept = await onKeep(taken.file, taken.filmSeconds);
    setKeeping(false);
    if (!isKept) return;
    await forgetRecording(showId, taken.recordingId);
    onClose();
  };
  const close = (): void => {
    if (isBusy) recording.stop();
    else if (!isKeeping) {
      const taken = recording.taken();
      if (taken) void forgetRecording(showId, taken.recordingId);
      onClose();
    }
  };
  return (
    <DialogBox
      open
      onClose={close}
      width={520}
      title={takeOf ? `Another take of “${takeOf.name}”` : "Record a voice"}
      actions={
        step.kind === "taken" ? (
          <TakenActions isKeeping={isKeeping} onDiscard={close} recording={recording} onKeep={keep} />
        ) : isBusy ? (
          <Button kind="primary" onClick={recording.stop}>
            <Square size={13} aria-hidden /> Stop
          </Button>
        ) : (
          <>
            <Button onClick={close}>Close</Button>
            <Button kind="primary" disabled={step.kind === "failed"} onClick={recording.start}>
              <Circle size={13} aria-hidden /> Record
            </Button>
          </>
        )
      }
    >
      <div className="flex flex-col gap-4">
        <MicrophoneChoice deviceId={deviceId} stepKind={step.kind} disabled={isBusy} onChoose={setDeviceId} />
        <InputMeter levelNow={recording.levelNow} />
        <PlaysFilmTick id={playsId} checked={playsFilm} disabled={isBusy} onChange={setPlaysFilm} />
        <Told step={step} />
        {step.kind === "taken" && recording.taken() && <Listen file={present(recording.taken()).file} />}
      </div>
    </DialogBox>
  );
}

interface TakenActionsProps {
  isKeeping: boolean;
  onDiscard: () => void;
  recording: ReturnType<typeof useRecording>;
  onKeep: () => Promise<void>;
}

/** What can be done with a recording. */
function TakenActions({ isKeeping, onDiscard, recording, onKeep }: TakenActionsProps): ReactNode {
  return (
    <>
      <Button kind="quiet" disabled={isKeeping} onClick={onDiscard}>
        Discard
      </Button>
      <Button disabled={isKeeping} onClick={recording.again}>
        Try again
      </Button>
      <Button kind="primary" disabled={isKeeping} onClick={() => void onKeep()}>
        {isKeeping ? "Taking it in …" : "Keep"}
      </Button>
    </>
  );
}

interface PlaysFilmTickProps {
  id: string;
  checked: boolean;
  disabled: boolean;
  onChange: (value: boolean) => void;
}

/** Whether the film plays while recording. */
function PlaysFilmTick({ id, checked, disabled, onChange }: PlaysFilmTickProps): ReactNode {
  const player = usePlayer();
  return (
    <label htmlFor={id} className="flex items-center gap-2 text-[13px] text-soft">
      <input
        id={id}
        type="checkbox"
        checked={checked}
        disabled={disabled}
        onChange={(event) => onChange(event.target.checked)}
      />
      The film plays meanwhile, from {clockText(player.filmSeconds())} (wear headphones, or the microphone hears it too)
    </label>
  );
}

interface MicrophoneChoiceProps {
  /** Empty: the default. */
  readonly deviceId: string;
  readonly stepKind: RecordingStep["kind"];
  readonly disabled: boolean;
  readonly onChoose: (deviceId: string) => void;
}

function MicrophoneChoice({ deviceId, stepKind, disabled, onChoose }: MicrophoneChoiceProps): ReactNode {
  const [devices, setDevices] = useState<{ id: string; name: string }[]>([]);
  const selectId = useId();
  // Names are known only once a microphone was allowed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again at every step
  useEffect(() => void Microphone.devices().then(setDevices, () => undefined), [stepKind]);
  return (
    <div>
      <label htmlFor={selectId} className="mb-1 block text-[13px] text-soft">
        Microphone
      </label>
      <select
        id={selectId}
        value={deviceId}
        disabled={disabled}
        onChange={({ target }) => onChoose(target.value)}
        className="w-full rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink"
      >
        <option value="">Default microphone</option>
        {devices
          .filter(({ id }) => id !== "" && id !== "default")
          .map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
      </select>
    </div>
  );
}

function Told({ step }: { step: RecordingStep }): ReactNode {
  const text = {
    ready: "Speak a sentence and watch the level: the loudest words should come to the last third, never to the end.",
    counting: step.kind === "counting" ? `${step.left} …` : "",
    recording: step.kind === "recording" ? `Recording: ${step.seconds.toFixed(0)} s` : "",
    taken:
      step.kind === "taken"
        ? `${step.seconds.toFixed(1)} s were recorded.${step.clipped ? " It was too loud in places and is distorted there: move back, or turn the microphone down, and record it once more." : ""}`
        : "",
    failed: step.kind === "failed" ? step.message : "",
  }[step.kind];
  const isLarge = step.kind === "counting";
  return (
    <p
      role={step.kind === "failed" ? "alert" : "status"}
      data-testid="recording-step"
      className={
        isLarge
          ? "text-center font-heading text-4xl text-lantern"
          : `text-[13px] ${step.kind === "failed" ? "text-error" : step.kind === "taken" && step.clipped ? "text-warning" : "text-soft"}`
      }
    >
      {text}
    </p>
  );
}

const SOFTEST_SHOWN = -60;
/** The last third is where the loudest words belong. */
const GOOD_FROM = -20;

function InputMeter({ levelNow }: { levelNow: () => number }): ReactNode {
  const bar = useRef<HTMLDivElement>(null);
  const newest = useRef(levelNow);
  newest.current = levelNow;
  useEffect(() => {
    let shown = SOFTEST_SHOWN;
    let request = 0;
    const tick = (): void => {
      const peak = newest.current();
      shown = Math.max(peak > 0 ? 20 * Math.log10(peak) : SOFTEST_SHOWN, shown - 0.6, SOFTEST_SHOWN);
      if (bar.current) {
        (bar.current.firstElementChild as HTMLElement).style.transform = `scaleX(${1 - shown / SOFTEST_SHOWN})`;
        bar.current.setAttribute("aria-valuenow", shown.toFixed(0));
      }
      request = requestAnimationFrame(tick);
    };
    tick();
    return () => cancelAnimationFrame(request);
  }, []);
  return (
    <div>
      <div className="mb-1 flex justify-between text-[13px] text-soft">
        <span>Level</span>
        <span className="text-quiet">−{-GOOD_FROM} dB and above: good</span>
      </div>
      <div
        ref={bar}
        role="meter"
        aria-label="Level of the microphone, in decibels"
        aria-valuemin={SOFTEST_SHOWN}
        aria-valuemax={0}
        aria-valuenow={SOFTEST_SHOWN}
        data-testid="input-level"
        className="relative h-2.5 overflow-hidden rounded-full bg-line-strong/40"
      >
        <div className="absolute inset-0 origin-left scale-x-0 bg-foam" />
        <div className="absolute inset-y-0 w-px bg-ink" style={{ left: `${100 * (1 - GOOD_FROM / SOFTEST_SHOWN)}%` }} />
      </div>
    </div>
  );
}

function Listen({ file }: { file: File }): ReactNode {
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    const made = URL.createObjectURL(file);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  if (!url) return null;
  return (
    // biome-ignore lint/a11y/useMediaCaption: it was spoken a moment ago by the person who listens
    <audio controls src={url} aria-label="Listen to what was recorded" className="w-full" />
  );
}

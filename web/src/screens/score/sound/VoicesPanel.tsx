import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { type Voice, voiceName } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { FilePlus2, Mic } from "lucide-react";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { forgetRecording, type KeptRecording, keptRecording } from "../../../recording/kept-recording.ts";
import { RecordDialog } from "../../../recording/RecordDialog.tsx";
import { recordingFile } from "../../../recording/use-recording.ts";
import { usePlayer } from "../../../stage/player-context.tsx";
import { useOpenShow, useShowId } from "../../../store/open-show.ts";
import { soundActions } from "../../../store/sound-slice.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { Panel } from "../../../ui/Panel.tsx";
import { bringVoice } from "./sound-actions.ts";
import { VoiceFields } from "./VoiceFields.tsx";
import { voicePiece } from "./voice-piece.ts";

const SOUND_FILES = "audio/*,video/*,.wav,.mp3,.m4a,.aac,.flac,.ogg,.opus,.mp4,.mov,.webm";

/** What is spoken over the film: recorded here, or brought in. */
export function VoicesPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const player = usePlayer();
  const voices = useOpenShow((show) => show.voices);
  const showId = useShowId();
  const chosenId = useAppSelector((state) => state.sound.voiceId);
  const [recordingOf, setRecordingOf] = useState<Voice | "new" | null>(null);
  const [isBringing, setBringing] = useState(false);
  const files = useRef<HTMLInputElement>(null);
  const chosen = voices.find(({ id }) => id === chosenId);
  const bring = async (list: FileList | null): Promise<void> => {
    setBringing(true);
    for (const file of list ?? []) await bringVoice(file, player.filmSeconds(), null);
    setBringing(false);
  };
  return (
    <Panel title="Voices">
      <CutOff showId={showId} />
      {voices.length === 0 ? (
        <p className="mb-2 text-[13px] text-soft">
          A speech, vows, a greeting: record it here, or bring in a file. It begins at the playhead, and the music makes
          room for it by itself.
        </p>
      ) : (
        <VoiceList plan={plan} />
      )}
      <NewVoice onRecord={setRecordingOf} isBringing={isBringing} files={files} onBring={bring} />
      {plan.soundRemarks.length > 0 && (
        <ul className="mt-2 flex flex-col gap-1 text-[13px] text-warning" data-testid="sound-remarks">
          {plan.soundRemarks.map(({ ownerId, text }) => (
            <li key={`${ownerId} ${text}`}>{text}</li>
          ))}
        </ul>
      )}
      {chosen && <VoiceFields voice={chosen} plan={plan} onRetake={() => setRecordingOf(chosen)} />}
      {recordingOf !== null && (
        <RecordDialog
          showId={showId}
          takeOf={recordingOf === "new" ? null : { id: recordingOf.id, name: voiceName(recordingOf) }}
          onClose={() => setRecordingOf(null)}
          onKeep={(file, filmSeconds) => bringVoice(file, filmSeconds, recordingOf === "new" ? null : recordingOf.id)}
        />
      )}
    </Panel>
  );
}

interface NewVoiceProps {
  onRecord: (value: Voice | "new" | null) => void;
  isBringing: boolean;
  files: React.RefObject<HTMLInputElement | null>;
  onBring: (list: FileList | null) => Promise<void>;
}

/** Two ways to a new voice. */
function NewVoice({ onRecord, isBringing, files, onBring }: NewVoiceProps): ReactNode {
  return (
    <div className="flex flex-wrap gap-1.5">
      <Button onClick={() => onRecord("new")}>
        <Mic size={14} aria-hidden /> Record
      </Button>
      <Button disabled={isBringing} onClick={() => files.current?.click()}>
        <FilePlus2 size={14} aria-hidden /> {isBringing ? "Bringing in …" : "Bring in"}
      </Button>
      <input
        ref={files}
        type="file"
        multiple
        hidden
        accept={SOUND_FILES}
        data-testid="voice-files"
        onChange={(event) => {
          void onBring(event.target.files).finally(() => {
            event.target.value = "";
          });
        }}
      />
    </div>
  );
}

interface VoiceListProps {
  plan: FilmPlan;
}

/** All voices, the chosen one marked. */
function VoiceList({ plan }: VoiceListProps): ReactNode {
  const voices = useOpenShow((show) => show.voices);
  const chosenId = useAppSelector((state) => state.sound.voiceId);
  const dispatch = useAppDispatch();
  return (
    <ul className="mb-2 flex flex-col" aria-label="Voices">
      {voices.map((voice) => (
        <li key={voice.id}>
          <button
            type="button"
            aria-pressed={voice.id === chosenId}
            onClick={() => dispatch(soundActions.voiceChosen(voice.id === chosenId ? null : voice.id))}
            className={`flex w-full items-baseline gap-2 rounded-md px-2 py-1 text-left text-[13px] ${voice.id === chosenId ? "bg-high text-ink" : "text-soft hover:bg-high hover:text-ink"}`}
          >
            <span className="min-w-0 flex-1 truncate">{voiceName(voice)}</span>
            <span className="text-quiet tabular-nums">{whenText(plan, voice)}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function whenText(plan: FilmPlan, { id, muted }: Voice): string {
  if (muted) return "muted";
  const piece = voicePiece(plan, id);
  if (!piece) return "…";
  const [start, end] = [itemAt(piece.time, 0).filmSeconds, lastOf(piece.time).filmSeconds];
  return `${clockText(start)}, ${(end - start).toFixed(1)} s`;
}

/** A recording that was going on when the window was closed or the page died. */
function CutOff({ showId }: { showId: string }): ReactNode {
  const [kept, setKept] = useState<KeptRecording | null>(null);
  const voices = useOpenShow((show) => show.voices);
  useEffect(() => void keptRecording(showId).then(setKept, () => undefined), [showId]);
  if (!kept) return null;
  const seconds = kept.pieces.reduce((sum, piece) => sum + piece.length, 0) / kept.sampleRate;
  const drop = async (): Promise<void> => {
    await forgetRecording(showId, kept.id);
    setKept(await keptRecording(showId));
  };
  const keep = async (): Promise<void> => {
    const voice = voices.find(({ id }) => id === kept.takeOfVoice);
    const file = recordingFile(kept.pieces, kept.sampleRate);
    if (await bringVoice(file, kept.filmSeconds, voice?.id ?? null)) await drop();
  };
  return (
    <div role="alert" className="mb-2 rounded-md border border-line-strong/60 p-2 text-[13px] text-soft">
      {seconds.toFixed(0)} s of a recording that was cut off were kept in this browser.
      <span className="mt-1.5 flex gap-1.5">
        <Button onClick={() => void keep()}>Use this file</Button>
        <Button kind="quiet" onClick={() => void drop()}>
          Discard
        </Button>
      </span>
    </div>
  );
}

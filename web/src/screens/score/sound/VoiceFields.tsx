import type { FilmPlan } from "@humming-tide/core/film";
import {
  changeVoice,
  chooseTake,
  LONGEST_FADE_SECONDS,
  removeTake,
  removeVoice,
  takeOf,
  type Voice,
  type VoiceChange,
} from "@humming-tide/core/show";
import type { SpeechFacts } from "@humming-tide/core/sound";
import { Mic, Trash2 } from "lucide-react";
import { type ReactNode, useId } from "react";
import { usePlayer } from "../../../stage/player-context.tsx";
import { edit } from "../../../store/edit.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button, IconButton } from "../../../ui/Button.tsx";
import { Field } from "../../../ui/Field.tsx";
import { NumberLine } from "../../../ui/NumberLine.tsx";
import { moveVoice, shapeByHand } from "./sound-actions.ts";
import { voicePiece } from "./voice-piece.ts";

interface VoiceFieldsProps {
  voice: Voice;
  plan: FilmPlan;
  onRetake: () => void;
}

/** Where a voice begins, what of it is heard and how, its takes, and the music under it. */
export function VoiceFields({ voice, plan, onRetake }: VoiceFieldsProps): ReactNode {
  const player = usePlayer();
  const facts = useAppSelector((state) => state.sound.speech[takeOf(voice).sha256]);
  const cleanId = useId();
  const change = (part: VoiceChange, tag: string | null = null): void =>
    edit((show) => changeVoice(show, voice.id, part), tag && `${tag} ${voice.id}`);
  const start = voicePiece(plan, voice.id)?.time[0];
  const whole = facts?.durationSeconds ?? null;
  const number = (
    label: string,
    value: number,
    [least, most]: readonly [number, number],
    take: (value: number) => void,
  ): ReactNode => <NumberLine label={label} value={value} min={least} max={most} step={0.1} onChange={take} />;
  const out = voice.outSeconds ?? whole ?? 0;
  return (
    <div role="group" aria-label="The chosen voice" className="mt-3 flex flex-col gap-2 border-t border-line pt-3">
      <Field
        label="Name"
        value={voice.name}
        placeholder={takeOf(voice).fileName}
        maxLength={200}
        onChange={(event) => change({ name: event.target.value }, "name")}
      />
      {start &&
        number("Begins at, in seconds of the film", start.filmSeconds, [0, 36_000], (seconds) =>
          moveVoice(voice.id, seconds, `voice ${voice.id}`),
        )}
      <Button kind="quiet" className="self-end" onClick={() => moveVoice(voice.id, player.filmSeconds())}>
        Begin at the playhead
      </Button>
      {whole !== null && (
        <>
          {number("Heard from, in seconds of the take", voice.inSeconds, [0, out - 0.1], (inSeconds) =>
            change({ inSeconds }, "in"),
          )}
          {number("to", out, [voice.inSeconds + 0.1, whole], (seconds) =>
            change({ outSeconds: seconds >= whole ? null : seconds }, "out"),
          )}
        </>
      )}
      {number("Fade in, seconds", voice.fadeInSeconds, [0, LONGEST_FADE_SECONDS], (fadeInSeconds) =>
        change({ fadeInSeconds }, "rise"),
      )}
      {number("Fade out, seconds", voice.fadeOutSeconds, [0, LONGEST_FADE_SECONDS], (fadeOutSeconds) =>
        change({ fadeOutSeconds }, "sink"),
      )}
      <CleanTick id={cleanId} voice={voice} onChange={change} facts={facts} />
      <MusicUnder voice={voice} onChange={change} />
      <Takes voice={voice} onRetake={onRetake} />
      <Button kind="quiet" className="self-start" onClick={() => edit((show) => removeVoice(show, voice.id))}>
        <Trash2 size={14} aria-hidden /> Remove this voice
      </Button>
    </div>
  );
}

interface MusicUnderProps {
  voice: Voice;
  onChange: (part: VoiceChange, tag?: string | null) => void;
}

/** How the music makes room: by itself, or shaped by hand. */
function MusicUnder({ voice, onChange }: MusicUnderProps): ReactNode {
  return (
    <div className="flex items-center justify-between gap-2 text-[13px] text-quiet">
      Music under it
      {voice.musicLevel.length === 0 ? (
        <Button onClick={() => shapeByHand(voice.id)}>Shape by hand</Button>
      ) : (
        <Button kind="quiet" onClick={() => onChange({ musicLevel: [] })}>
          Back to automatic
        </Button>
      )}
    </div>
  );
}

interface CleanTickProps {
  id: string;
  voice: Voice;
  onChange: (part: VoiceChange, tag?: string | null) => void;
  facts: SpeechFacts | undefined;
}

/** Whether noise is reduced, and how much there is. */
function CleanTick({ id, voice, onChange, facts }: CleanTickProps): ReactNode {
  return (
    <label htmlFor={id} className="flex items-center gap-2 text-[13px] text-soft">
      <input
        id={id}
        type="checkbox"
        checked={voice.cleaned}
        onChange={(event) => onChange({ cleaned: event.target.checked })}
      />
      Reduce noise
      {typeof facts?.noiseDecibels === "number" && ` (${facts.noiseDecibels.toFixed(0)} dB between the words)`}
    </label>
  );
}

function Takes({ voice, onRetake }: { voice: Voice; onRetake: () => void }): ReactNode {
  return (
    <fieldset>
      <legend className="mb-1 text-[13px] text-soft">Takes</legend>
      {voice.takes.map(({ sha256, fileName }, index) => (
        <div key={sha256} className="flex items-center gap-1.5">
          <label className="flex min-w-0 flex-1 items-center gap-2 text-[13px] text-soft">
            <input
              type="radio"
              name={`take of ${voice.id}`}
              checked={index === voice.take}
              onChange={() => edit((show) => chooseTake(show, voice.id, index))}
            />
            <span className="truncate" title={fileName}>
              {index + 1}. {fileName}
            </span>
          </label>
          {voice.takes.length > 1 && (
            <IconButton
              label={`Delete take ${index + 1}`}
              onClick={() => edit((show) => removeTake(show, voice.id, index))}
            >
              <Trash2 size={13} />
            </IconButton>
          )}
        </div>
      ))}
      <Button className="mt-1" onClick={onRetake}>
        <Mic size={14} aria-hidden /> Another take
      </Button>
    </fieldset>
  );
}

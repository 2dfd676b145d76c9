import { SOUND_KIND_WORDS } from "@humming-tide/core/sound";
import { clockText } from "@humming-tide/core/time";
import { AudioLines } from "lucide-react";
import type { ReactNode } from "react";
import type { WaitingSound } from "../../intake/intake-slice.ts";
import { type SoundUse, takeSoundAs } from "../../intake/waiting-sounds.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Panel } from "../../ui/Panel.tsx";

/** Sounds that came in beside the song: what each is for is for a person to say. */
export function SoundsPanel(): ReactNode {
  const sounds = useAppSelector((state) => state.intake.sounds);
  if (sounds.length === 0) return null;
  return (
    <Panel title="What are these for?" aside={<span className="text-[13px] text-quiet">{sounds.length}</span>}>
      <ul className="flex flex-col gap-3">
        {sounds.map((sound) => (
          <SoundLine key={sound.sha256} sound={sound} />
        ))}
      </ul>
    </Panel>
  );
}

function SoundLine({ sound }: { sound: WaitingSound }): ReactNode {
  const songs = useOpenShow((show) => show.songs);
  const { fileName, durationSeconds, kind } = sound;
  const take = (use: SoundUse): void => takeSoundAs(sound, use);
  const isVoice = kind === "voice";
  return (
    <li className="flex items-start gap-3 text-[13px]" data-testid="waiting-sound" data-kind={kind}>
      <AudioLines size={18} aria-hidden className="mt-0.5 shrink-0 text-foam" />
      <div className="min-w-0">
        <p className="break-words text-ink">
          <bdi>{fileName}</bdi>
        </p>
        <p className="text-quiet">
          {clockText(durationSeconds)}, {SOUND_KIND_WORDS[kind]}
        </p>
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          {isVoice && (
            <Button kind="primary" onClick={() => take("voice")}>
              Use as a voice
            </Button>
          )}
          {songs.length === 0 ? (
            <Button onClick={() => take("replace")}>Use as the song</Button>
          ) : (
            <Button onClick={() => take("add")}>Add behind the song</Button>
          )}
          {songs.length === 1 && !isVoice && <Button onClick={() => take("replace")}>Replace the song</Button>}
          {!isVoice && <Button onClick={() => take("voice")}>Use as a voice</Button>}
          <Button kind="quiet" onClick={() => take("library")}>
            Not now
          </Button>
        </div>
      </div>
    </li>
  );
}

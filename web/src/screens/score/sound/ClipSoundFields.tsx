import {
  type ClipSound,
  changeClipSound,
  FIRST_CLIP_SOUND,
  LONGEST_FADE_SECONDS,
  LONGEST_OVERHANG_SECONDS,
  type Slide,
} from "@humming-tide/core/show";
import { type ReactNode, useId } from "react";
import { edit } from "../../../store/edit.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Choice } from "../../../ui/Choice.tsx";
import { NumberLine } from "../../../ui/NumberLine.tsx";

const KINDS = [
  { value: "muted", label: "Muted", hint: "Only the music is heard" },
  { value: "beside", label: "Beside the music", hint: "What it sounds like, with the music" },
  { value: "speech", label: "Speech", hint: "Vows, a speech: evened out like a voice, and the music makes room" },
] as const;

/** What is heard of the clips on some slides; nothing where none of them has sound. */
export function ClipSoundFields({ slides }: { slides: readonly Slide[] }): ReactNode {
  const media = useAppSelector((state) => state.show.media);
  const cleanId = useId();
  const clips = slides.filter(({ sha256 }) => {
    const facts = sha256 === null ? undefined : media[sha256];
    return facts?.kind === "clip" && facts.sound !== null;
  });
  const [first] = clips;
  if (!first) return null;
  const ids = new Set(clips.map(({ id }) => id));
  const sound = first.sound ?? FIRST_CLIP_SOUND;
  const change = (part: Partial<ClipSound>, tag: string | null = null): void =>
    edit((show) => changeClipSound(show, ids, part), tag && `clip sound ${tag}`);
  const number = (
    label: string,
    key: "fadeInSeconds" | "fadeOutSeconds" | "leadSeconds" | "tailSeconds",
    most: number,
  ): ReactNode => (
    <NumberLine
      label={label}
      value={sound[key]}
      min={0}
      max={most}
      step={0.1}
      onChange={(seconds) => change({ [key]: seconds }, key)}
    />
  );
  return (
    <div className="mt-3 flex flex-col gap-2" role="group" aria-label="Sound of the clip">
      <div className="text-[13px] text-soft">
        {clips.length === 1 ? "Its own sound" : `Sound of ${clips.length} clips`}
      </div>
      <Choice
        label="What is heard of the clip"
        value={sound.kind}
        options={KINDS}
        onChange={(kind) => change({ kind })}
      />
      {sound.kind !== "muted" && (
        <>
          {number("Fade in, seconds", "fadeInSeconds", LONGEST_FADE_SECONDS)}
          {number("Fade out, seconds", "fadeOutSeconds", LONGEST_FADE_SECONDS)}
          {number("Heard before its picture for", "leadSeconds", LONGEST_OVERHANG_SECONDS)}
          {number("Heard on behind it for", "tailSeconds", LONGEST_OVERHANG_SECONDS)}
          <label htmlFor={cleanId} className="flex items-center gap-2 text-[13px] text-soft">
            <input
              id={cleanId}
              type="checkbox"
              checked={sound.cleaned}
              onChange={(event) => change({ cleaned: event.target.checked })}
            />
            Reduce noise
          </label>
        </>
      )}
    </div>
  );
}

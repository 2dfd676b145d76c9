import { itemAt } from "@humming-tide/core/presence";
import { ownerKey } from "@humming-tide/core/sound";
import { clockText } from "@humming-tide/core/time";
import { type KeyboardEvent, type ReactNode, type RefObject, useCallback, useEffect, useRef } from "react";
import { soundActions } from "../../../store/sound-slice.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { LEVEL_LANE, type RowSize, SOUND_LANE, soundHeight } from "../layout/row-size.ts";
import { drawInTurn } from "../layout/turns.ts";
import { useMovedByKeys } from "../moved-by-keys.ts";
import { drawBlockWave, drawLevel, levelTop } from "../sound/draw-sound.ts";
import type { LevelHandle, RowSound, SoundBlock } from "../sound/row-sound.ts";
import { LOWEST_SHAPED_DECIBELS, moveLevelPoint, moveVoiceBy, removeLevelPoint } from "../sound/sound-actions.ts";
import type { EdgeDrags } from "./use-edge-drag.ts";

interface SoundLanesProps {
  sound: RowSound;
  size: RowSize;
  drags: EdgeDrags;
}

/**
 * Under a row's music: its level where it makes room for speech, voices, and the sound of clips.
 */
export function SoundLanes({ sound, size, drags }: SoundLanesProps): ReactNode {
  const lanes = { voice: size.level, clip: size.level + size.voices } as const;
  return (
    <div className="relative" data-testid="sound-lanes" style={{ height: soundHeight(size) }}>
      <LevelLine level={sound.level} />
      {sound.handles.map((handle) => (
        <LevelPointHandle key={`${handle.voiceId} ${handle.index}`} handle={handle} drags={drags} />
      ))}
      {sound.blocks.map((block) => (
        <SoundBlockView
          // A voice that moves is the same; a clip may be heard several times.
          key={`${block.kind} ${block.id} ${block.first} ${block.kind === "clip" ? block.startSeconds : ""}`}
          block={block}
          top={lanes[block.kind]}
          drags={drags}
        />
      ))}
    </div>
  );
}

type Drawing = (canvas: HTMLCanvasElement, width: number) => void;

function useDrawing(draw: Drawing): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const target = canvas.current;
    if (!target) return;
    let giveUp = (): void => undefined;
    const redraw = (): void => {
      giveUp();
      giveUp = drawInTurn(() => draw(target, target.clientWidth));
    };
    const resized = new ResizeObserver(redraw);
    resized.observe(target);
    window.addEventListener("themechange", redraw);
    return () => {
      giveUp();
      resized.disconnect();
      window.removeEventListener("themechange", redraw);
    };
  }, [draw]);
  return canvas;
}

function LevelLine({ level }: { level: readonly number[] }): ReactNode {
  const canvas = useDrawing(useCallback((target, width) => drawLevel(target, width, level), [level]));
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="pointer-events-none absolute inset-x-0 top-0 block w-full"
      style={{ height: LEVEL_LANE }}
    />
  );
}

/** A voice is taken hold of and moved; the sound of a clip goes with its picture. */
function SoundBlockView({ block, top, drags }: { block: SoundBlock; top: number; drags: EdgeDrags }): ReactNode {
  const dispatch = useAppDispatch();
  const peaks = useAppSelector((state) => state.sound.peaks[block.sha256]);
  const isChosen = useAppSelector((state) => block.kind === "voice" && state.sound.voiceId === block.id);
  const isAlone = useAppSelector(
    (state) =>
      state.sound.soloed.length === 0 || state.sound.soloed.includes(ownerKey({ kind: block.kind, id: block.id })),
  );
  const canvas = useDrawing(useCallback((target, width) => drawBlockWave(target, width, block, peaks), [block, peaks]));
  const isVoice = block.kind === "voice";
  const { ref, note } = useMovedByKeys<HTMLButtonElement>(`voice ${block.id} ${block.first}`);
  const onKey = (event: KeyboardEvent): void => {
    const side = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
    if (!isVoice || side === 0 || event.ctrlKey || event.metaKey) return;
    note();
    moveVoiceBy(block.id, side * (event.altKey ? FINE_STEP_SECONDS : STEP_SECONDS));
    event.preventDefault();
    event.stopPropagation();
  };
  const time = `${clockText(block.startSeconds)} to ${clockText(block.endSeconds)}`;
  return (
    <button
      ref={ref}
      type="button"
      data-testid={isVoice ? "voice-block" : "clip-sound"}
      data-voice={isVoice ? block.id : undefined}
      data-space-plays
      aria-label={`${isVoice ? "Voice" : "Sound of"} ${block.name}, ${time}${block.muted ? ", muted" : ""}`}
      aria-pressed={isChosen}
      title={
        isVoice ? `${block.name}, ${time}: drag it, or move it by arrow keys (Alt: finely)` : `${block.name}, ${time}`
      }
      className={`absolute z-[2] overflow-hidden rounded-[5px] border text-left ${isVoice ? "cursor-grab border-ink-soft/60 bg-high" : "cursor-default border-line-strong/60 bg-raised"} ${isChosen ? "outline-2 outline-ink" : ""} ${block.muted || !isAlone ? "opacity-40" : ""}`}
      style={{
        left: `${100 * block.from}%`,
        width: `${100 * (block.to - block.from)}%`,
        top: top + 1,
        height: SOUND_LANE - 3,
      }}
      onPointerDown={(event) => {
        event.stopPropagation();
        if (isVoice && event.button === 0) drags.voice(event, block.id, block.startSeconds);
      }}
      onClick={() => {
        if (isVoice) dispatch(soundActions.voiceChosen(block.id));
      }}
      onKeyDown={onKey}
    >
      <canvas ref={canvas} aria-hidden className="absolute inset-0 block size-full" />
      {block.first && (
        <span className="relative block truncate px-1.5 text-[11px] leading-[15px] text-ink [text-shadow:0_0_3px_var(--ground),0_0_3px_var(--ground)]">
          {block.name}
        </span>
      )}
    </button>
  );
}

const STEP_SECONDS = 0.1;
const FINE_STEP_SECONDS = 0.01;

/** Where the music's level under a voice was drawn by hand. */
function LevelPointHandle({ handle, drags }: { handle: LevelHandle; drags: EdgeDrags }): ReactNode {
  const { voiceId, index, share, decibels, filmSeconds } = handle;
  const onKey = (event: KeyboardEvent): void => {
    const step = { ArrowUp: [0, 0.5], ArrowDown: [0, -0.5], ArrowLeft: [-0.1, 0], ArrowRight: [0.1, 0] }[event.key];
    if (event.key === "Delete" || event.key === "Backspace") removeLevelPoint(voiceId, index);
    else if (step) moveLevelPoint(voiceId, index, { seconds: itemAt(step, 0), decibels: itemAt(step, 1) });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <button
      type="button"
      role="slider"
      data-testid="level-point"
      aria-label={`Level of the music under the voice, point ${index + 1}`}
      aria-valuemin={LOWEST_SHAPED_DECIBELS}
      aria-valuemax={0}
      aria-valuenow={decibels}
      aria-valuetext={`${decibels.toFixed(1)} dB at ${clockText(filmSeconds)}`}
      title={`${decibels.toFixed(1)} dB: drag it, or move it by arrow keys; Delete removes it`}
      className="absolute z-[3] size-3 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none rounded-full border-2 border-foam bg-ground"
      style={{ left: `${100 * share}%`, top: levelTop(decibels) }}
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.button === 0) drags.levelPoint(event, voiceId, index);
      }}
      onKeyDown={onKey}
    />
  );
}

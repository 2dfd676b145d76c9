import type { FilmPlan } from "@humming-tide/core/film";
import { present } from "@humming-tide/core/presence";
import {
  changeClipSound,
  changeMix,
  changeSong,
  changeVoice,
  LOUDEST_DECIBELS,
  type ShowDocument,
  SOFTEST_DECIBELS,
  slideName,
  voiceName,
} from "@humming-tide/core/show";
import { decibels as decibelsOf, ownerKey, type SoundOwner } from "@humming-tide/core/sound";
import { type ReactNode, type RefObject, useCallback, useId, useRef } from "react";
import { useFilmClock, usePlayer } from "../../../stage/player-context.tsx";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { soundActions } from "../../../store/sound-slice.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { Panel } from "../../../ui/Panel.tsx";

/** A source with what can be done to it. */
interface Source {
  readonly owner: SoundOwner;
  readonly name: string;
  readonly decibels: number;
  readonly muted: boolean;
  readonly setDecibels: (decibels: number) => void;
  /** Null where it is muted elsewhere. */
  readonly setMuted: ((muted: boolean) => void) | null;
}

function sourcesOf(show: ShowDocument, plan: FilmPlan): Source[] {
  const heardClips = new Set(plan.sound.pieces.flatMap(({ owner }) => (owner.kind === "clip" ? [owner.id] : [])));
  return [
    ...show.songs.map(
      ({ id, fileName, decibels, muted }): Source => ({
        owner: { kind: "song", id },
        name: fileName,
        decibels,
        muted,
        setDecibels: (level) => edit((document) => changeSong(document, id, { decibels: level }), `level ${id}`),
        setMuted: (isMuted) => edit((document) => changeSong(document, id, { muted: isMuted })),
      }),
    ),
    ...show.voices.map(
      (voice): Source => ({
        owner: { kind: "voice", id: voice.id },
        name: voiceName(voice),
        decibels: voice.decibels,
        muted: voice.muted,
        setDecibels: (level) =>
          edit((document) => changeVoice(document, voice.id, { decibels: level }), `level ${voice.id}`),
        setMuted: (isMuted) => edit((document) => changeVoice(document, voice.id, { muted: isMuted })),
      }),
    ),
    ...show.slides
      .filter(({ id }) => heardClips.has(id))
      .map(
        (slide): Source => ({
          owner: { kind: "clip", id: slide.id },
          name: slideName(slide),
          decibels: slide.sound?.decibels ?? 0,
          muted: false,
          setDecibels: (level) =>
            edit(
              (document) => changeClipSound(document, new Set([slide.id]), { decibels: level }),
              `level ${slide.id}`,
            ),
          setMuted: () => edit((document) => changeClipSound(document, new Set([slide.id]), { kind: "muted" })),
        }),
      ),
  ];
}

/** Every source of the film with its level, and how loud it is while the film plays. */
export function SourcesPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const show = useOpenShow();
  const soloed = useAppSelector((state) => state.sound.soloed);
  const meters = useRef<HTMLDivElement>(null);
  useMeters(meters);
  const id = useId();
  return (
    <Panel title="Levels">
      <div ref={meters} className="flex flex-col gap-2.5">
        {sourcesOf(show, plan).map((source) => (
          <SourceLine key={ownerKey(source.owner)} source={source} soloed={soloed} />
        ))}
        <div>
          <div className="mb-1 text-[13px] text-soft">The whole film</div>
          <Meter owner="whole" name="The whole film" />
        </div>
      </div>
      <label htmlFor={id} className="mt-3 flex items-center gap-2 text-[13px] text-soft">
        <input
          id={id}
          type="checkbox"
          checked={show.mix.evensSongs}
          onChange={(event) => edit((document) => changeMix(document, { evensSongs: event.target.checked }))}
        />
        All songs equally loud
      </label>
      {soloed.length > 0 && (
        <p className="mt-2 text-[13px] text-warning">Solo works here only; the exported film has everything.</p>
      )}
    </Panel>
  );
}

function SourceLine({ source, soloed }: { source: Source; soloed: readonly string[] }): ReactNode {
  const dispatch = useAppDispatch();
  const key = ownerKey(source.owner);
  const isAlone = soloed.includes(key);
  const press = "rounded px-1.5 py-0.5 text-xs border aria-pressed:font-semibold";
  return (
    <div role="group" aria-label={source.name}>
      <div className="mb-1 flex items-center gap-1.5">
        <span className="min-w-0 flex-1 truncate text-[13px] text-soft" title={source.name}>
          {source.name}
        </span>
        <button
          type="button"
          aria-pressed={isAlone}
          title="Hear this alone; the exported film keeps everything"
          className={`${press} ${isAlone ? "border-ink bg-high text-ink" : "border-transparent text-quiet hover:text-ink"}`}
          onClick={() => dispatch(soundActions.soloToggled(key))}
        >
          Solo
        </button>
        <button
          type="button"
          aria-pressed={source.muted}
          title="Not heard, here and in the film"
          className={`${press} ${source.muted ? "border-ink bg-high text-ink" : "border-transparent text-quiet hover:text-ink"}`}
          onClick={() => source.setMuted?.(!source.muted)}
        >
          Mute
        </button>
        <label className="flex items-center gap-1 text-xs text-quiet">
          <input
            type="number"
            aria-label={`Level of ${source.name}, in decibels`}
            min={SOFTEST_DECIBELS}
            max={LOUDEST_DECIBELS}
            step={0.5}
            value={source.decibels}
            onChange={(event) => {
              const level = event.target.valueAsNumber;
              if (level >= SOFTEST_DECIBELS && level <= LOUDEST_DECIBELS) source.setDecibels(level);
            }}
            className="w-16 rounded-md border border-line-strong/60 bg-ground px-1.5 py-0.5 text-right text-[13px] text-ink"
          />
          dB
        </label>
      </div>
      <Meter owner={key} name={source.name} />
    </div>
  );
}

/** From this level on a meter shows something; full scale is its end. */
const SOFTEST_SHOWN = -48;

function Meter({ owner, name }: { owner: string; name: string }): ReactNode {
  return (
    <div
      role="meter"
      aria-label={`How loud ${name} is`}
      aria-valuemin={SOFTEST_SHOWN}
      aria-valuemax={0}
      aria-valuenow={SOFTEST_SHOWN}
      data-meter={owner}
      className="relative h-1.5 overflow-hidden rounded-full bg-line-strong/40"
    >
      <div className="absolute inset-0 origin-left scale-x-0 rounded-full bg-foam" />
    </div>
  );
}

/** A second after a peak its meter has fallen by so much. */
const FALL_DECIBELS_A_SECOND = 30;

/** Moves all meters under an element while the film plays, without rendering anything. */
function useMeters(place: RefObject<HTMLElement | null>): void {
  const player = usePlayer();
  const shown = useRef(new Map<string, number>());
  const last = useRef(0);
  useFilmClock(
    useCallback(() => {
      const now = performance.now();
      const fall = (FALL_DECIBELS_A_SECOND * Math.min(1000, now - last.current)) / 1000;
      last.current = now;
      const isPlaying = player.state === "playing";
      const { whole, owners } = player.heardPeaks();
      for (const meter of place.current?.querySelectorAll<HTMLElement>("[data-meter]") ?? []) {
        const owner = present(meter.dataset["meter"]);
        const peak = owner === "whole" ? whole : (owners[owner] ?? 0);
        const level = peak > 0 ? decibelsOf(peak) : SOFTEST_SHOWN;
        const before = shown.current.get(owner) ?? SOFTEST_SHOWN;
        const next = isPlaying ? Math.max(SOFTEST_SHOWN, Math.min(0, level), before - fall) : SOFTEST_SHOWN;
        shown.current.set(owner, next);
        meter.setAttribute("aria-valuenow", next.toFixed(0));
        (meter.firstElementChild as HTMLElement).style.transform = `scaleX(${1 - next / SOFTEST_SHOWN})`;
      }
    }, [player, place]),
  );
}

import { itemAt } from "@humming-tide/core/presence";
import { framesPerSecond } from "@humming-tide/core/time";
import { handSteps, type PlayerFilm } from "@humming-tide/core/web-player";
import { Hand, Play, VolumeX } from "lucide-react";
import {
  type PointerEvent,
  type ReactNode,
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { FilmClock } from "./film-clock.ts";
import { FilmDrawing } from "./film-drawing.ts";
import { PlayerControls } from "./PlayerControls.tsx";
import { PlayerKeys } from "./PlayerKeys.tsx";
import { type SeekChapter, SeekLine } from "./SeekLine.tsx";
import { useFullScreen } from "./use-full-screen.ts";
import { useIdle } from "./use-idle.ts";
import { usePlayerKeys } from "./use-player-keys.ts";

/** Controls go after so long without a move, while the film plays. */
const IDLE_MS = 2800;
/** A finger that moves less far means a tap. */
const SWIPE_PIXELS = 45;

/** A film that plays from its folder: by itself with its sound, or stepped by hand. */
export function PlayerPage({ film, folder }: { film: PlayerFilm; folder: string }): ReactNode {
  const page = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { clock, drawing, steps } = useFilm(film, folder);
  const [hasBegun, setBegun] = useState(false);
  const [showsKeys, setShowsKeys] = useState(false);
  const isFull = useFullScreen();
  const idle = useIdle(IDLE_MS);
  const perSecond = framesPerSecond(film.rate);

  const seconds = useDrawnFilm(canvas, clock, drawing, perSecond);

  const act = useCallback((action: () => void) => {
    setBegun(true);
    action();
  }, []);
  const toggleFull = useCallback(() => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else void page.current?.requestFullscreen().catch(() => undefined);
  }, []);
  const begin = (mode: "music" | "hand"): void =>
    act(() => {
      clock.setMode(mode);
      if (mode === "music") clock.play();
      else clock.seek(itemAt(steps, 0).restFrame);
    });

  const showKeys = useCallback(() => setShowsKeys(true), []);
  usePlayerKeys({ clock, lastFrame: film.totalFrames - 1, act, toggleFull, showKeys });

  const isHand = clock.mode === "hand";
  const hides = idle && clock.isPlaying && !showsKeys;
  const chapters = film.chapters.map(({ title, startFrame, endFrame }) => ({
    title,
    startSeconds: startFrame / perSecond,
    endSeconds: endFrame / perSecond,
  }));
  const slideSeconds = useMemo(
    () => film.track.slots.map(({ startFrame }) => startFrame / perSecond),
    [film, perSecond],
  );
  return (
    <div
      ref={page}
      className="relative flex h-full w-full items-center justify-center overflow-hidden bg-black text-ink [container-type:size]"
      style={{ cursor: hides ? "none" : undefined }}
      data-playing={clock.isPlaying}
      data-mode={clock.mode}
    >
      <FilmCanvas film={film} canvas={canvas} isHand={isHand} onAct={act} clock={clock} />
      <FilmTitle hides={hides} film={film} />
      {clock.soundFailed && <SoundFailure />}
      {!hasBegun && <Beginning onBegin={begin} />}
      <PlayerBar
        hides={hides}
        seconds={seconds}
        clock={clock}
        chapters={chapters}
        slideSeconds={slideSeconds}
        onAct={act}
        perSecond={perSecond}
        steps={steps}
        isFull={isFull}
        onKeys={showKeys}
        onFull={toggleFull}
      />
      <p className="sr-only" aria-live="polite">
        {isHand && hasBegun ? `Slide ${clock.step + 1} of ${steps.length}` : ""}
      </p>
      {showsKeys && <PlayerKeys container={page.current} onClose={() => setShowsKeys(false)} />}
    </div>
  );
}

interface PlayerBarProps {
  hides: boolean;
  seconds: number;
  clock: FilmClock;
  chapters: readonly SeekChapter[];
  slideSeconds: readonly number[];
  onAct: (action: () => void) => void;
  perSecond: number;
  steps: ReturnType<typeof handSteps>;
  isFull: boolean;
  onKeys: () => void;
  onFull: () => void;
}

/** Line and buttons at the bottom; they go away while the film plays and nothing moves. */
function PlayerBar({
  hides,
  seconds,
  clock,
  chapters,
  slideSeconds,
  onAct,
  perSecond,
  steps,
  isFull,
  onKeys,
  onFull,
}: PlayerBarProps): ReactNode {
  return (
    <div
      className={`absolute inset-x-0 bottom-0 bg-gradient-to-t from-black/85 via-black/60 to-transparent px-6 pb-3 pt-10 transition-opacity duration-300 focus-within:opacity-100 ${hides ? "opacity-0" : ""}`}
    >
      <SeekLine
        seconds={seconds}
        lengthSeconds={clock.lengthSeconds}
        chapters={chapters}
        slideSeconds={slideSeconds}
        onSeek={(to) => onAct(() => clock.seek(Math.round(to * perSecond)))}
      />
      <PlayerControls
        clock={clock}
        steps={steps.length}
        seconds={seconds}
        isFull={isFull}
        onAct={onAct}
        onKeys={onKeys}
        onFull={onFull}
      />
    </div>
  );
}

/** The sound cannot be played. */
function SoundFailure(): ReactNode {
  return (
    <p role="alert" className="absolute top-14 flex items-center gap-2 rounded bg-ground/90 px-3 py-1.5 text-[13px]">
      <VolumeX size={16} /> The sound cannot be played here. The film goes on without it; another browser may help.
    </p>
  );
}

interface FilmTitleProps {
  hides: boolean;
  film: PlayerFilm;
}

/** The film's name. */
function FilmTitle({ hides, film }: FilmTitleProps): ReactNode {
  return (
    <header
      className={`pointer-events-none absolute inset-x-0 top-0 flex px-5 pt-4 transition-opacity duration-300 ${hides ? "opacity-0" : ""}`}
    >
      <h1 className="truncate rounded bg-black/55 px-3 py-1 text-[19px]">{film.title}</h1>
    </header>
  );
}

/** The choice between a film that plays and one that is stepped by hand. */
function Beginning({ onBegin }: { onBegin: (mode: "music" | "hand") => void }): ReactNode {
  return (
    <div className="absolute flex flex-col items-center gap-5">
      <button
        type="button"
        onClick={() => onBegin("music")}
        className="flex items-center gap-3 rounded-full bg-lantern py-4 pl-7 pr-9 text-[18px] font-semibold text-lantern-ink shadow-lg"
      >
        <Play size={22} fill="currentColor" /> Play the film
      </button>
      <button
        type="button"
        onClick={() => onBegin("hand")}
        className="flex items-center gap-2 rounded-full bg-black/55 px-5 py-2.5 text-[14px] text-ink"
      >
        <Hand size={17} /> Step by hand, without sound
      </button>
    </div>
  );
}

/** Draws the film as long as the page stands, and gives the second that is seen, to a tenth. */
function useDrawnFilm(
  canvas: RefObject<HTMLCanvasElement | null>,
  clock: FilmClock,
  drawing: FilmDrawing,
  perSecond: number,
): number {
  const [, setTurn] = useState(0);
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const changed = (): void => setTurn((turn) => turn + 1);
    clock.addEventListener("change", changed);
    return () => clock.removeEventListener("change", changed);
  }, [clock]);
  useEffect(() => {
    let request = 0;
    const draw = (): void => {
      const frame = clock.frame();
      if (canvas.current) drawing.draw(canvas.current, frame, clock.isPlaying);
      // The line moves by tenths of a second: the page is not put together again for every picture.
      setSeconds(Math.floor((10 * frame) / perSecond) / 10);
      request = requestAnimationFrame(draw);
    };
    request = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(request);
  }, [canvas, clock, drawing, perSecond]);
  return seconds;
}

/** Clock and drawing of a film, for as long as the page stands. */
function useFilm(
  film: PlayerFilm,
  folder: string,
): {
  readonly clock: FilmClock;
  readonly drawing: FilmDrawing;
  readonly steps: ReturnType<typeof handSteps>;
} {
  return useMemo(() => {
    const steps = handSteps(film.track);
    const sound = new Audio(folder + film.sound);
    sound.preload = "auto";
    return { steps, clock: new FilmClock({ ...film, steps }, sound), drawing: new FilmDrawing(film, folder) };
  }, [film, folder]);
}

/**
 * The film itself: a press plays or stops it; by hand, the left third goes back and the rest goes
 * on. A finger may also swipe.
 */
function FilmCanvas({
  film,
  canvas,
  clock,
  isHand,
  onAct,
}: {
  film: PlayerFilm;
  canvas: RefObject<HTMLCanvasElement | null>;
  clock: FilmClock;
  isHand: boolean;
  onAct: (action: () => void) => void;
}): ReactNode {
  const downAt = useRef<number | null>(null);
  const { width, height } = film.track.size;
  const release = (event: PointerEvent<HTMLCanvasElement>): void => {
    const from = downAt.current;
    downAt.current = null;
    if (from === null) return;
    const moved = event.clientX - from;
    if (Math.abs(moved) > SWIPE_PIXELS) {
      onAct(() => clock.stepBy(moved < 0 ? 1 : -1));
      return;
    }
    const box = event.currentTarget.getBoundingClientRect();
    const isLeft = event.clientX - box.left < box.width / 3;
    onAct(() => (isHand ? clock.stepBy(isLeft ? -1 : 1) : clock.toggle()));
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`The film “${film.title}”`}
      className="block touch-pan-y"
      style={{ aspectRatio: `${width} / ${height}`, width: `min(100cqw, ${(100 * width) / height}cqh)` }}
      onPointerDown={(event) => {
        if (event.isPrimary && event.button === 0) downAt.current = event.clientX;
      }}
      onPointerUp={release}
      onPointerCancel={() => {
        downAt.current = null;
      }}
    />
  );
}

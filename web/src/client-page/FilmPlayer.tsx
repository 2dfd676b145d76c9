import type { ClientComment, ClientFilm } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { Maximize, Minimize, Pause, Play, Volume2, VolumeX } from "lucide-react";
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { ControlButton } from "../film-player/ControlButton.tsx";
import { SeekLine } from "../film-player/SeekLine.tsx";
import { useFullScreen } from "../film-player/use-full-screen.ts";
import { watchUrl } from "./client-api.ts";

interface FilmPlayerProps {
  film: ClientFilm["film"];
  title: string;
  /** What stands for the film until it plays; null: nothing. */
  cover: string | null;
  session: string;
  /** Comments on this film, one for each thread. */
  marks: readonly ClientComment[];
  /** Where to go; each new object goes there once. */
  jump: { readonly seconds: number } | null;
  onMoved: (seconds: number) => void;
  /** The file is no longer this version's. */
  onReplaced: () => void;
}

/** The film of a client page with its controls. */
export function FilmPlayer({
  film,
  title,
  cover,
  session,
  marks,
  jump,
  onMoved,
  onReplaced,
}: FilmPlayerProps): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  const isFull = useFullScreen();
  const [isMuted, setMuted] = useState(false);
  const { video, isPlaying, setPlaying, seconds, failure, setFailure, seek, toggle, stepBy, moved } = useFilmVideo(
    film,
    jump,
    onMoved,
  );
  const toggleFull = useCallback(() => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else void frame.current?.requestFullscreen().catch(() => undefined);
  }, []);
  useFilmKeys({ toggle, stepBy, toggleFull });
  return (
    <div ref={frame} className="flex min-h-0 flex-1 flex-col bg-black" data-testid="film">
      <div className="flex min-h-0 flex-1 items-center justify-center max-lg:aspect-video">
        {/* biome-ignore lint/a11y/useMediaCaption: captions are in the picture */}
        <FilmVideo
          video={video}
          film={film}
          session={session}
          title={title}
          cover={cover}
          isMuted={isMuted}
          onToggle={toggle}
          onPlaying={setPlaying}
          onMoved={moved}
          onFailure={setFailure}
          onReplaced={onReplaced}
        />
      </div>
      {failure && <Failure text={failure} />}
      <div className="bg-ground/90 px-5 pt-2 pb-1.5">
        <SeekLine
          seconds={seconds}
          lengthSeconds={film.seconds}
          chapters={film.chapters}
          slideSeconds={film.slideSeconds}
          onSeek={seek}
        >
          <CommentMarks marks={marks} filmSeconds={film.seconds} />
        </SeekLine>
        <FilmControls
          isPlaying={isPlaying}
          isMuted={isMuted}
          isFull={isFull}
          time={`${clockText(seconds)} / ${clockText(film.seconds)}`}
          onToggle={toggle}
          onMute={() => setMuted(!isMuted)}
          onFull={toggleFull}
        />
      </div>
    </div>
  );
}

interface FilmVideoProps {
  video: React.RefObject<HTMLVideoElement | null>;
  film: ClientFilm["film"];
  session: string;
  title: string;
  cover: string | null;
  isMuted: boolean;
  onToggle: () => void;
  onPlaying: (value: boolean) => void;
  onMoved: () => void;
  onFailure: (value: string | null) => void;
  onReplaced: () => void;
}

/** The film itself: a press plays or stops it. */
function FilmVideo({
  video,
  film,
  session,
  title,
  cover,
  isMuted,
  onToggle,
  onPlaying,
  onMoved,
  onFailure,
  onReplaced,
}: FilmVideoProps): ReactNode {
  return (
    <video
      ref={video}
      src={watchUrl(film.version, session)}
      aria-label={`The film “${title}”`}
      playsInline
      preload="metadata"
      {...(cover === null ? {} : { poster: cover })}
      muted={isMuted}
      className="h-full max-h-full w-full object-contain"
      onClick={onToggle}
      onPlay={() => onPlaying(true)}
      onPause={() => onPlaying(false)}
      onTimeUpdate={onMoved}
      onSeeked={onMoved}
      onError={() => {
        onFailure("The film could not be loaded. Load the page again.");
        onReplaced();
      }}
    />
  );
}

/** The film's place and what moves it. `jump`: where to go; each new object goes there once. */
function useFilmVideo(
  film: ClientFilm["film"],
  jump: { readonly seconds: number } | null,
  onMoved: (seconds: number) => void,
) {
  const video = useRef<HTMLVideoElement>(null);
  const [isPlaying, setPlaying] = useState(false);
  const [seconds, setSeconds] = useState(0);
  const [failure, setFailure] = useState<string | null>(null);
  const seek = useCallback(
    (to: number) => {
      const element = video.current;
      if (!element) return;
      const place = Math.max(0, Math.min(film.seconds - 0.04, to));
      element.currentTime = place;
      // Said before the film has got there: the next press of a key goes on from here.
      setSeconds(place);
      onMoved(place);
    },
    [film.seconds, onMoved],
  );
  const toggle = useCallback(() => {
    const element = video.current;
    if (!element) return;
    if (element.paused) void element.play().catch((error: Error) => setFailure(error.message));
    else element.pause();
  }, []);
  const stepBy = useCallback(
    (count: number) => {
      seek(slideAway(film.slideSeconds, video.current?.currentTime ?? 0, count));
    },
    [film.slideSeconds, seek],
  );
  useEffect(() => {
    if (!jump) return;
    video.current?.pause();
    seek(jump.seconds);
  }, [jump, seek]);
  const moved = (): void => {
    const now = video.current?.currentTime ?? 0;
    setSeconds(now);
    onMoved(now);
  };
  return { video, isPlaying, setPlaying, seconds, failure, setFailure, seek, toggle, stepBy, moved };
}

/**
 * Where the slide begins that is so many away; just inside it, so that it is the one that is seen.
 */
function slideAway(starts: readonly number[], now: number, count: number): number {
  const at = starts.findLastIndex((start) => start <= now + 0.02);
  // Back in the middle of a slide goes to its own beginning.
  const to = count < 0 && now - (starts[at] ?? 0) > 1 ? at : at + count;
  return (starts[Math.max(0, Math.min(starts.length - 1, to))] ?? 0) + 0.001;
}

const Failure = ({ text }: { text: string }): ReactNode => (
  <p role="alert" className="px-5 py-2 text-[13px] text-error">
    {text}
  </p>
);

/** Where comments are on the line: open ones full, done ones empty. */
function CommentMarks({ marks, filmSeconds }: { marks: readonly ClientComment[]; filmSeconds: number }): ReactNode {
  return marks.map((mark) => (
    <span
      key={mark.id}
      aria-hidden
      title={`${mark.name}: ${mark.text}`}
      className={`pointer-events-none absolute top-[20px] size-2 -translate-x-1/2 rotate-45 ${mark.done ? "border border-foam" : "bg-foam"}`}
      style={{ left: `${(100 * mark.seconds) / filmSeconds}%` }}
    />
  ));
}

interface FilmControlsProps {
  isPlaying: boolean;
  isMuted: boolean;
  isFull: boolean;
  time: string;
  onToggle: () => void;
  onMute: () => void;
  onFull: () => void;
}

function FilmControls({ isPlaying, isMuted, isFull, time, onToggle, onMute, onFull }: FilmControlsProps): ReactNode {
  return (
    <div className="flex items-center gap-1">
      <ControlButton label={isPlaying ? "Stop" : "Play"} onPress={onToggle}>
        {isPlaying ? <Pause size={20} fill="currentColor" /> : <Play size={20} fill="currentColor" />}
      </ControlButton>
      <span className="ml-2 text-[13px] tabular-nums">{time}</span>
      <span className="flex-1" />
      <ControlButton label={isMuted ? "Sound on" : "Sound off"} onPress={onMute}>
        {isMuted ? <VolumeX size={19} /> : <Volume2 size={19} />}
      </ControlButton>
      <ControlButton label={isFull ? "Leave the full screen" : "Full screen"} onPress={onFull}>
        {isFull ? <Minimize size={19} /> : <Maximize size={19} />}
      </ControlButton>
    </div>
  );
}

interface FilmKeys {
  readonly toggle: () => void;
  readonly stepBy: (count: number) => void;
  readonly toggleFull: () => void;
}

/** The keys of the film. Where something is typed or pressed they mean what they mean there. */
function useFilmKeys({ toggle, stepBy, toggleFull }: FilmKeys): void {
  useEffect(() => {
    const actions: Readonly<Record<string, () => void>> = {
      " ": toggle,
      ArrowRight: () => stepBy(1),
      ArrowLeft: () => stepBy(-1),
      f: toggleFull,
    };
    const press = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.target instanceof HTMLElement && event.target.closest("input, textarea, button, a, [role=dialog]"))
        return;
      const action = Object.hasOwn(actions, event.key) ? actions[event.key] : undefined;
      if (!action) return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [toggle, stepBy, toggleFull]);
}

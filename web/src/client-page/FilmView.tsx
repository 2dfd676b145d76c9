import type { ClientFilm } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { CommentsView } from "./CommentsView.tsx";
import { coverUrl } from "./client-api.ts";
import { DownloadBar } from "./DownloadBar.tsx";
import { FilmPlayer } from "./FilmPlayer.tsx";
import { studioColours } from "./studio-colours.ts";

interface FilmViewProps {
  film: ClientFilm;
  session: string;
  /** Something was sent: look again. */
  onChanged: () => Promise<void>;
}

/** The film, what can be said about it, and how to have it. */
export function FilmView({ film, session, onChanged }: FilmViewProps): ReactNode {
  // A film that plays is not taken away: a new version waits until it is asked for.
  const [shown, setShown] = useState(film.film);
  const [seconds, setSeconds] = useState(0);
  const [jump, setJump] = useState<{ readonly seconds: number } | null>(null);
  const version = film.versions.find(({ number }) => number === shown.version);
  const isOld = film.film.version !== shown.version;
  const threads = film.comments.filter(({ threadId }) => threadId === null);
  return (
    <main className="flex min-h-full flex-col lg:h-full lg:flex-row" style={studioColours(film.studio)}>
      <div className="flex min-w-0 flex-1 flex-col">
        <StudioLine studio={film.studio} />
        <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2 px-6 pt-4 pb-3">
          <div className="min-w-0">
            <h1 className="text-[24px] leading-8 break-words">{film.title}</h1>
            <p className="text-[13px] text-soft">
              {[film.event, film.date && dayText(film.date), clockText(shown.seconds), `version ${shown.version}`]
                .filter(Boolean)
                .join(", ")}
              {version?.note ? `: ${version.note}` : ""}
            </p>
          </div>
          {film.download && <DownloadBar download={film.download} session={session} onChanged={onChanged} />}
          {film.greeting !== "" && (
            <p className="w-full max-w-prose text-[15px] leading-6 whitespace-pre-line text-ink">{film.greeting}</p>
          )}
        </header>
        {isOld && (
          <div role="status" className="flex items-center gap-3 border-y border-line bg-high px-6 py-2 text-[14px]">
            A new version of the film is here.
            <Button kind="primary" onClick={() => setShown(film.film)}>
              Show it
            </Button>
          </div>
        )}
        <FilmPlayer
          key={shown.version}
          film={shown}
          title={film.title}
          cover={film.hasCover ? coverUrl(session) : null}
          session={session}
          marks={threads.filter((comment) => comment.version === shown.version)}
          jump={jump}
          onMoved={setSeconds}
          onReplaced={() => {
            void onChanged();
            setShown(film.film);
          }}
        />
        <Chapters chapters={shown.chapters} seconds={seconds} onJump={(to) => setJump({ seconds: to })} />
      </div>
      <CommentsView
        film={film}
        version={shown.version}
        session={session}
        seconds={seconds}
        onJump={(to) => setJump({ seconds: to })}
        onChanged={onChanged}
      />
    </main>
  );
}

/** Who made the film. */
function StudioLine({ studio: { name, logo } }: Pick<ClientFilm, "studio">): ReactNode {
  if (name === "" && logo === null) return null;
  return (
    <p className="flex items-center gap-3 border-b border-line px-6 py-3">
      {logo && <img src={logo} alt={name || "The studio’s logo"} className="h-10 max-w-[60vw] object-contain" />}
      {name !== "" && <span className="text-[15px] text-soft">{name}</span>}
    </p>
  );
}

/** The parts of the film, where there are several; a press goes there. */
function Chapters({
  chapters,
  seconds,
  onJump,
}: {
  chapters: ClientFilm["film"]["chapters"];
  seconds: number;
  onJump: (seconds: number) => void;
}): ReactNode {
  if (chapters.length < 2) return null;
  return (
    <nav aria-label="Chapters" className="flex shrink-0 gap-2 overflow-x-auto bg-ground px-6 py-3">
      {chapters.map(({ title, startSeconds, endSeconds }) => (
        <button
          key={startSeconds}
          type="button"
          aria-current={seconds >= startSeconds && seconds < endSeconds ? "true" : undefined}
          onClick={() => onJump(startSeconds)}
          className="shrink-0 rounded-md border border-line-strong/50 px-3 py-2 text-left text-[13px] text-soft hover:border-line-strong hover:text-ink aria-current:border-ink aria-current:bg-high aria-current:text-ink"
        >
          <span className="mr-2 text-quiet tabular-nums">{clockText(startSeconds)}</span>
          {title}
        </button>
      ))}
    </nav>
  );
}

/** "21 June 2031", as the reader's own language has it. */
const dayText = (day: string): string =>
  new Date(`${day}T12:00:00`).toLocaleDateString([], { day: "numeric", month: "long", year: "numeric" });

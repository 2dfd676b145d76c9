import type { ClientFilm } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { CommentsView } from "./CommentsView.tsx";
import { DownloadBar } from "./DownloadBar.tsx";
import { FilmPlayer } from "./FilmPlayer.tsx";

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
    <main className="flex min-h-full flex-col lg:h-full lg:flex-row">
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2 px-6 pt-4 pb-3">
          <div className="min-w-0">
            <h1 className="truncate text-[24px] leading-8" title={film.title}>
              {film.title}
            </h1>
            <p className="text-[13px] text-soft">
              {[film.event, film.date && dayText(film.date), clockText(shown.seconds), `version ${shown.version}`]
                .filter(Boolean)
                .join(", ")}
              {version?.note ? `: ${version.note}` : ""}
            </p>
          </div>
          {film.download && <DownloadBar download={film.download} session={session} onChanged={onChanged} />}
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
          session={session}
          marks={threads.filter((comment) => comment.version === shown.version)}
          jump={jump}
          onMoved={setSeconds}
          onReplaced={() => {
            void onChanged();
            setShown(film.film);
          }}
        />
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

/** "21 June 2031", as the reader's own language has it. */
const dayText = (day: string): string =>
  new Date(`${day}T12:00:00`).toLocaleDateString([], { day: "numeric", month: "long", year: "numeric" });

import type { Health, ShowSummary } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { Plus } from "lucide-react";
import { Dialog } from "radix-ui";
import { type FormEvent, type ReactNode, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, mediaUrl } from "../../api.ts";
import { Button } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";

/** All shows of the data folder. */
export function ShelfScreen(): ReactNode {
  const [shows, setShows] = useState<readonly ShowSummary[] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [health, setHealth] = useState<Health | null>(null);
  useEffect(() => {
    api.listShows().then(setShows, (error: Error) => setFailure(error.message));
    api.health().then(setHealth, () => undefined);
  }, []);
  return (
    <div className="mx-auto h-full max-w-[1160px] overflow-y-auto px-8 py-8">
      <header className="mb-8 flex items-end justify-between">
        <div>
          <h1 className="text-[34px] leading-10">Humming Tide</h1>
          <p className="text-soft">Pictures and a song in, a film out whose every change lands on the beat.</p>
        </div>
        <NewShow />
      </header>
      {health?.ffmpegProblem && (
        <div className="mb-6">
          <Notice kind="warning">{health.ffmpegProblem}</Notice>
        </div>
      )}
      {failure && <Notice kind="error">{failure}</Notice>}
      {shows?.length === 0 && (
        <EmptyState title="The shelf is empty">
          A show is one film: pictures, a song, and your wishes. Start one with “New show”.
        </EmptyState>
      )}
      <ul className="grid grid-cols-3 gap-6">
        {shows?.map((show) => (
          <li key={show.id}>
            <ShowCard show={show} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function ShowCard({ show }: { show: ShowSummary }): ReactNode {
  return (
    <Link
      to={`/shows/${show.id}/score`}
      className="group block overflow-hidden rounded-lg border border-line bg-raised hover:border-line-strong"
    >
      <div className="aspect-video overflow-hidden bg-slide">
        {show.posterSha256 && (
          <img src={mediaUrl(show.posterSha256, "thumbnail")} alt="" className="size-full object-cover" />
        )}
      </div>
      <div className="px-4 py-3">
        <h2 className="truncate text-[17px]" title={show.title}>
          {show.title}
        </h2>
        <p className="truncate text-[13px] text-soft">
          {show.songFileName ? show.songFileName.replace(/\.\w+$/, "") : "No song yet"}
        </p>
        <p className="mt-1 flex justify-between text-xs text-quiet">
          <span>
            {show.pictureCount} pictures{show.songSeconds === null ? "" : `, ${clockText(show.songSeconds)}`}
          </span>
          <time dateTime={show.updatedAt}>
            {new Date(show.updatedAt).toLocaleDateString(undefined, {
              day: "numeric",
              month: "short",
              year: "numeric",
            })}
          </time>
        </p>
      </div>
    </Link>
  );
}

function NewShow(): ReactNode {
  const navigate = useNavigate();
  const [title, setTitle] = useState("");
  const [failure, setFailure] = useState<string | null>(null);
  const create = (event: FormEvent): void => {
    event.preventDefault();
    api.createShow(title).then(
      (show) => navigate(`/shows/${show.id}/gather`),
      (error: Error) => setFailure(error.message),
    );
  };
  return (
    <Dialog.Root onOpenChange={() => setFailure(null)}>
      <Dialog.Trigger asChild>
        <Button kind="primary">
          <Plus size={16} /> New show
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/55" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-[420px] -translate-x-1/2 -translate-y-1/2 rounded-xl border border-line bg-raised p-6 shadow-2xl"
        >
          <Dialog.Title className="mb-4 font-heading text-xl">New show</Dialog.Title>
          <form onSubmit={create} className="flex flex-col gap-4">
            <label className="flex flex-col gap-1 text-[13px] text-soft">
              Name
              <input
                value={title}
                maxLength={200}
                onChange={(event) => setTitle(event.target.value)}
                placeholder="Closing night of the regatta"
                className="rounded-md border border-line-strong bg-ground px-3 py-2 text-[15px] text-ink placeholder:text-quiet"
              />
            </label>
            {failure && <Notice kind="error">{failure}</Notice>}
            <div className="flex justify-end gap-2">
              <Dialog.Close asChild>
                <Button kind="quiet">Cancel</Button>
              </Dialog.Close>
              <Button kind="primary" type="submit" disabled={!title.trim()}>
                Start
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

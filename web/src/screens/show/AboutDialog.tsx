import { drawnPicture } from "@humming-tide/core/picture";
import { type PictureSlide, posterSlide } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { mediaUrl } from "../../api.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { Field } from "../../ui/Field.tsx";

/** What the show is about: for the shelf, and later for title cards and the client. */
export function AboutDialog({ onClose }: { onClose: () => void }): ReactNode {
  const dispatch = useAppDispatch();
  const show = useOpenShow();
  const [title, setTitle] = useState(show.title);
  const [event, setEvent] = useState(show.event);
  const [date, setDate] = useState(show.date ?? "");
  const [client, setClient] = useState(show.client);
  const poster = posterSlide(show);
  const save = (): void => {
    const changed = {
      ...show,
      title: title.trim() || show.title,
      event: event.trim(),
      date: /^\d{4}-\d{2}-\d{2}$/.test(date) ? date : null,
      client: client.trim(),
    };
    if (JSON.stringify(changed) !== JSON.stringify(show)) dispatch(showActions.edited(changed));
    onClose();
  };
  return (
    <DialogBox
      open
      onClose={onClose}
      title="About the show"
      width={560}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" onClick={save}>
            Save
          </Button>
        </>
      }
    >
      <div className="flex gap-5">
        <PosterField poster={poster} />
        <div className="flex min-w-0 flex-1 flex-col gap-3">
          <Field label="Name" value={title} maxLength={200} onChange={(change) => setTitle(change.target.value)} />
          <Field label="Event" value={event} maxLength={200} onChange={(change) => setEvent(change.target.value)} />
          <Field label="Date" type="date" value={date} onChange={(change) => setDate(change.target.value)} />
          <Field label="Client" value={client} maxLength={200} onChange={(change) => setClient(change.target.value)} />
        </div>
      </div>
    </DialogBox>
  );
}

interface PosterFieldProps {
  poster: PictureSlide | undefined;
}

/** The poster, and the way back to the first picture. */
function PosterField({ poster }: PosterFieldProps): ReactNode {
  const show = useOpenShow();
  const dispatch = useAppDispatch();
  return (
    <div className="w-[190px] shrink-0">
      <div className="aspect-video overflow-hidden rounded-md bg-slide">
        {poster && (
          <img
            src={mediaUrl(drawnPicture(poster.sha256, poster.turn), "thumbnail")}
            alt={`Poster: ${poster.fileName}`}
            className="size-full object-cover"
          />
        )}
      </div>
      <p className="mt-2 text-xs text-quiet">
        {show.posterSlideId === null
          ? "The first picture is the poster. Select another in Gather and choose “Make it the poster”."
          : "The poster that you chose."}
      </p>
      {show.posterSlideId !== null && (
        <Button
          kind="quiet"
          className="-ml-3"
          onClick={() => dispatch(showActions.edited({ ...show, posterSlideId: null }))}
        >
          Use the first picture
        </Button>
      )}
    </div>
  );
}

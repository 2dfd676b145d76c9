import { isSeen } from "@humming-tide/contract";
import { drawnPicture } from "@humming-tide/core/picture";
import { hasPicture, type PictureSlide, slideName } from "@humming-tide/core/show";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { mediaUrl } from "../api.ts";
import { SEEN_FILES } from "../intake/accepted-files.ts";
import { chosenFiles } from "../intake/dropped-files.ts";
import { useOpenShow } from "../store/open-show.ts";
import { useAppSelector } from "../store/store.ts";
import { Button } from "../ui/Button.tsx";
import { DialogBox } from "../ui/DialogBox.tsx";
import { Notice } from "../ui/Notice.tsx";
import { ProgressBar } from "../ui/ProgressBar.tsx";
import { SlideImage } from "../ui/SlideImage.tsx";
import { exchangeWith, putBack, replaceWith, showMoving } from "./replace-file.ts";

/**
 * Another file in the place of a slide's own: from the machine, from what the film does not show,
 * or one from before. It closes when the slide has another file.
 */
export function ReplaceDialog({ slideId, onClose }: { slideId: string; onClose: () => void }): ReactNode {
  const slide = useAppSelector((state) => state.show.document?.slides.find(({ id }) => id === slideId));
  const sha256 = slide?.sha256 ?? null;
  const [first] = useState(sha256);
  useEffect(() => {
    if (sha256 !== first) onClose();
  }, [sha256, first, onClose]);
  return slide && hasPicture(slide) ? <ReplaceBox slide={slide} onClose={onClose} /> : null;
}

function ReplaceBox({ slide, onClose }: { slide: PictureSlide; onClose: () => void }): ReactNode {
  const picker = useRef<HTMLInputElement>(null);
  const [path, setPath] = useState<string | null>(null);
  return (
    <DialogBox
      open
      onClose={onClose}
      title="Replace the picture"
      width={560}
      actions={<Button onClick={onClose}>Close</Button>}
    >
      <div className="flex gap-4">
        <SlideImage slide={slide} className="h-[84px] w-[112px] shrink-0 rounded bg-slide object-contain" />
        <div className="min-w-0 text-[13px] text-soft">
          <p className="truncate text-[15px] text-ink">
            <bdi>{slide.fileName}</bdi>
          </p>
          <p className="mt-1">
            What you decided about this slide stays: its place, locks, length, caption, words and style. Framing and
            subject come from the new picture.
          </p>
        </div>
      </div>
      <input
        ref={picker}
        type="file"
        accept={SEEN_FILES}
        className="sr-only"
        tabIndex={-1}
        aria-label="Choose the new file"
        onChange={({ target }) => {
          const files = chosenFiles(target.files);
          target.value = "";
          setPath(files[0]?.path ?? null);
          replaceWith(slide.id, files);
        }}
      />
      <Button kind="primary" className="mt-4" onClick={() => picker.current?.click()}>
        Choose a file …
      </Button>
      {path !== null && <Coming path={path} />}
      <MovingPart slide={slide} />
      <FormerFiles slide={slide} />
      <Waiting slide={slide} />
    </DialogBox>
  );
}

/** How far the chosen file is, or why it was refused. */
function Coming({ path }: { path: string }): ReactNode {
  const row = useAppSelector((state) => Object.values(state.intake.rows).findLast((one) => one.path === path));
  if (row?.state === "refused" || row?.state === "already-there")
    return (
      <div className="mt-3">
        <Notice kind="error">{row.message ?? "This is the very file that is there."}</Notice>
      </div>
    );
  return (
    <div className="mt-3">
      <ProgressBar label={`Bringing in ${path}`} share={row?.sent ?? 0} />
    </div>
  );
}

/** The clip that a phone filmed around the picture, in the same file. */
function MovingPart({ slide }: { slide: PictureSlide }): ReactNode {
  const facts = useAppSelector((state) => state.show.media[slide.sha256]);
  const [isBusy, setIsBusy] = useState(false);
  if (facts?.kind !== "picture" || !facts.movingPart) return null;
  return (
    <section className="mt-5 flex items-center justify-between gap-3 text-[13px] text-soft">
      <p>A short clip lies in this picture’s file.</p>
      <Button
        disabled={isBusy}
        onClick={() => {
          setIsBusy(true);
          void showMoving(slide).finally(() => setIsBusy(false));
        }}
      >
        {isBusy ? "Taking it out …" : "Show the clip"}
      </Button>
    </section>
  );
}

/** Files that stood on the slide before; only those that this data folder has. */
function FormerFiles({ slide }: { slide: PictureSlide }): ReactNode {
  const media = useAppSelector((state) => state.show.media);
  const former = slide.formerFiles.filter(({ sha256 }) => isSeen(media[sha256]));
  if (former.length === 0) return null;
  return (
    <section className="mt-5">
      <h3 className="mb-2 font-sans text-[13px] text-quiet">Earlier files of this slide</h3>
      <ul className="flex flex-wrap gap-2">
        {former.map((file) => (
          <li key={file.sha256}>
            <PictureButton label={`Put back ${file.fileName}`} onPress={() => putBack(slide, file)}>
              <img
                src={mediaUrl(drawnPicture(file.sha256, file.turn), "thumbnail")}
                alt=""
                className="size-full object-contain"
              />
            </PictureButton>
            <bdi className="block w-[80px] truncate text-xs text-quiet">{file.fileName}</bdi>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Pictures of the show that the film does not show: two slides exchange their files. */
function Waiting({ slide }: { slide: PictureSlide }): ReactNode {
  const slides = useOpenShow((show) => show.slides);
  const leftOut = useAppSelector((state) => state.view.plan?.leftOut);
  const waiting = useMemo(() => {
    const noRoom = new Set(leftOut?.map((index) => slides[index]?.id));
    return slides.filter(
      (other): other is PictureSlide =>
        other.id !== slide.id && hasPicture(other) && (other.rating === "out" || noRoom.has(other.id)),
    );
  }, [slides, leftOut, slide.id]);
  if (waiting.length === 0) return null;
  return (
    <section className="mt-5">
      <h3 className="mb-2 font-sans text-[13px] text-quiet">Not in the film: the two change places</h3>
      <ul className="flex max-h-[190px] flex-wrap gap-2 overflow-y-auto p-0.5">
        {waiting.map((other) => (
          <li key={other.id}>
            <PictureButton label={`Use ${slideName(other)} here`} onPress={() => exchangeWith(slide, other)}>
              <SlideImage slide={other} className="size-full object-contain" />
            </PictureButton>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface PictureButtonProps {
  label: string;
  onPress: () => void;
  children: ReactNode;
}

const PictureButton = ({ label, onPress, children }: PictureButtonProps): ReactNode => (
  <button
    type="button"
    aria-label={label}
    title={label}
    className="block h-[60px] w-[80px] overflow-hidden rounded-[5px] bg-slide outline-offset-1 hover:outline-2 hover:outline-line-strong"
    onClick={onPress}
  >
    {children}
  </button>
);

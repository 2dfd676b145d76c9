import { counted, laterText } from "@humming-tide/core/language";
import { type PassageSensitivity, proposePassages } from "@humming-tide/core/photo-analysis";
import { valueFor } from "@humming-tide/core/presence";
import { dividePassages, type Slide } from "@humming-tide/core/show";
import { type ReactNode, useMemo, useState } from "react";
import { useLetters } from "../../keys/letters.ts";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { SlideImage } from "../../ui/SlideImage.tsx";
import { slideSeconds, timeText } from "./slide-facts.ts";

/**
 * Proposes passages where much time went by between two pictures; each can be named and left out
 * before they are taken.
 */
export function PassagesDialog({ onClose }: { onClose: () => void }): ReactNode {
  const letters = useLetters();
  const show = useOpenShow();
  const [sensitivity, setSensitivity] = useState<PassageSensitivity>("usual");
  const [names, setNames] = useState<Readonly<Record<string, string>>>({});
  const [joined, setJoined] = useState<ReadonlySet<string>>(new Set());
  const proposed = useProposal(sensitivity);
  const slides = new Map(show.slides.map((slide) => [slide.id, slide]));
  const taken = proposed.filter(({ slideId }, index) => index === 0 || !joined.has(slideId));
  const divide = (): void => {
    edit((document) =>
      dividePassages(
        document,
        taken.map(({ slideId }) => ({ slideId, name: names[slideId]?.trim() ?? "" })),
      ),
    );
    onClose();
  };
  const losesPassages = show.passages.some(
    ({ name, style }) => name !== "" || Object.values(style).some((own) => own !== null),
  );
  return (
    <DialogBox
      open
      onClose={onClose}
      title="Divide the show into passages"
      width={640}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" disabled={taken.length < 2} onClick={divide}>
            Divide into {taken.length} passages
          </Button>
        </>
      }
    >
      <SensitivityChoice value={sensitivity} onChange={setSensitivity} />
      {proposed.length < 2 && (
        <p className="rounded-md border border-line px-3 py-3 text-[13px] text-soft">
          No such place was found in the present order. Try “Many”, put the pictures in order of capture time first, or
          begin a passage by hand: select a picture and press {letters.passage.toUpperCase()}.
        </p>
      )}
      <ProposedList
        proposed={proposed}
        slides={slides}
        names={names}
        joined={joined}
        onNames={setNames}
        onJoined={setJoined}
      />
      {losesPassages && proposed.length > 1 && (
        <p className="mt-3 text-[13px] text-warning">
          The {counted(show.passages.length, "passage")} that the show has now, with names and settings, will go. Undo
          brings them back.
        </p>
      )}
    </DialogBox>
  );
}

/** The passages that capture times speak for, in the present order. */
function useProposal(sensitivity: PassageSensitivity): ReturnType<typeof proposePassages> {
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  return useMemo(
    () =>
      proposePassages(
        show.slides.map((slide) => ({ id: slide.id, seconds: slideSeconds(media, show, slide) })),
        sensitivity,
      ),
    [show, media, sensitivity],
  );
}

interface ProposedListProps {
  proposed: ReturnType<typeof proposePassages>;
  /** By their names. */
  slides: ReadonlyMap<string, Slide>;
  names: Readonly<Record<string, string>>;
  joined: ReadonlySet<string>;
  onNames: (value: Readonly<Record<string, string>>) => void;
  onJoined: (value: ReadonlySet<string>) => void;
}

/** Every proposed passage; one that is proposed alone is none. */
function ProposedList({ proposed, slides, names, joined, onNames, onJoined }: ProposedListProps): ReactNode {
  const media = useAppSelector((state) => state.show.media);
  const show = useOpenShow();
  return (
    <ol className="flex flex-col gap-2">
      {proposed.length > 1 &&
        proposed.map((passage, index) => (
          <ProposedLine
            key={passage.slideId}
            passage={passage}
            slide={valueFor(slides, passage.slideId)}
            number={index + 1}
            seconds={slideSeconds(media, show, valueFor(slides, passage.slideId))}
            name={names[passage.slideId] ?? ""}
            isJoined={index > 0 && joined.has(passage.slideId)}
            onName={(name) => onNames({ ...names, [passage.slideId]: name })}
            onJoin={() => {
              const next = new Set(joined);
              if (!next.delete(passage.slideId)) next.add(passage.slideId);
              onJoined(next);
            }}
          />
        ))}
    </ol>
  );
}

interface SensitivityChoiceProps {
  value: PassageSensitivity;
  onChange: (value: PassageSensitivity) => void;
}

/** How readily a passage begins. */
function SensitivityChoice({ value, onChange }: SensitivityChoiceProps): ReactNode {
  return (
    <div className="mb-3 flex items-center justify-between gap-3 text-[13px] text-soft">
      A passage begins where much more time than usual went by.
      <Choice
        label="How many passages"
        value={value}
        options={[
          { value: "few", label: "Few" },
          { value: "usual", label: "Usual" },
          { value: "many", label: "Many" },
        ]}
        onChange={onChange}
      />
    </div>
  );
}

interface ProposedLineProps {
  readonly passage: ReturnType<typeof proposePassages>[number];
  /** Its first slide. */
  readonly slide: Slide;
  /** From 1 on. */
  readonly number: number;
  /** When its first picture was taken; null: not known. */
  readonly seconds: number | null;
  readonly name: string;
  /** It is not to begin here, but to go on with the one before. */
  readonly isJoined: boolean;
  readonly onName: (name: string) => void;
  readonly onJoin: () => void;
}

function ProposedLine(props: ProposedLineProps): ReactNode {
  const { passage, slide, number, seconds, name, isJoined, onName, onJoin } = props;
  const { count, gapSeconds } = passage;
  return (
    <li className={`flex items-center gap-3 ${isJoined ? "opacity-50" : ""}`}>
      <SlideImage slide={slide} className="h-[54px] w-[72px] shrink-0 rounded bg-slide object-contain" />
      <div className="min-w-0 flex-1">
        <input
          aria-label={`Name of passage ${number}`}
          placeholder={`Passage ${number}`}
          value={name}
          maxLength={200}
          disabled={isJoined}
          onChange={({ target }) => onName(target.value)}
          className="w-full rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-[14px]"
        />
        <p className="mt-0.5 text-xs text-quiet">
          {counted(count, "picture")}
          {seconds !== null && `, from ${timeText(seconds)}`}
          {gapSeconds !== null && (gapSeconds < 0 ? ", goes back in time" : `, ${laterText(gapSeconds)}`)}
        </p>
      </div>
      {number > 1 && (
        <Button kind="quiet" onClick={onJoin}>
          {isJoined ? "Part here" : "Join with the one before"}
        </Button>
      )}
    </li>
  );
}

import type { PictureShape } from "@humming-tide/core/photo-analysis";
import { present } from "@humming-tide/core/presence";
import type { Slide } from "@humming-tide/core/show";
import { type ReactNode, useMemo, useState } from "react";
import { useOpenShow } from "../../store/open-show.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { Field } from "../../ui/Field.tsx";
import { Menu, MenuHeading, MenuItem, MenuLine } from "../../ui/Menu.tsx";
import { isSoft, seenFacts, shapeOf, slideSeconds } from "./slide-facts.ts";

const SHAPES: readonly PictureShape[] = ["landscape", "portrait", "square", "panorama"];

interface Kind {
  readonly name: string;
  readonly slides: readonly Slide[];
}

/** Selects all pictures of a kind; how many there are is said beside each. */
export function SelectMenu(): ReactNode {
  const dispatch = useAppDispatch();
  const [byTime, setByTime] = useState(false);
  const kinds = useKinds();
  const selected = useAppSelector((state) => state.selection.ids);
  const slides = useOpenShow((show) => show.slides);
  const select = (list: readonly Slide[]): void =>
    void dispatch(
      selectionActions.selected({
        ids: list.map(({ id }) => id),
        ...(list[0] ? { current: { slideId: list[0].id, round: 0 } } : {}),
      }),
    );
  const items = (list: readonly Kind[]): ReactNode =>
    list
      .filter((kind) => kind.slides.length > 0)
      .map((kind) => (
        <MenuItem key={kind.name} aside={kind.slides.length} onSelect={() => select(kind.slides)}>
          {kind.name}
        </MenuItem>
      ));
  return (
    <>
      <Menu trigger={<Button>Select …</Button>}>
        <MenuItem aside={slides.length} onSelect={() => select(slides)}>
          All
        </MenuItem>
        <MenuItem
          aside={slides.length - selected.size}
          onSelect={() => select(slides.filter(({ id }) => !selected.has(id)))}
        >
          Invert the selection
        </MenuItem>
        <MenuItem onSelect={() => setByTime(true)}>Taken between …</MenuItem>
        <MenuLine />
        {items(kinds.shapes)}
        <MenuLine />
        {items(kinds.ratings)}
        {kinds.passages.length > 1 && <MenuHeading>In the passage</MenuHeading>}
        {kinds.passages.length > 1 && items(kinds.passages)}
      </Menu>
      {byTime && <TimeDialog onClose={() => setByTime(false)} onSelect={select} />}
    </>
  );
}

function useKinds(): { shapes: Kind[]; ratings: Kind[]; passages: Kind[] } {
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  return useMemo(() => {
    const { slides, passages } = show;
    const facts = (slide: Slide) => seenFacts(media, slide);
    const ofShape = (shape: PictureShape): Slide[] =>
      slides.filter((slide) => {
        const own = facts(slide);
        return own?.kind === "picture" && shapeOf(own, slide) === shape;
      });
    return {
      shapes: [
        ...SHAPES.map((shape) => ({ name: present(shape[0]).toUpperCase() + shape.slice(1), slides: ofShape(shape) })),
        { name: "Clips", slides: slides.filter((slide) => facts(slide)?.kind === "clip") },
        { name: "Soft", slides: slides.filter((slide) => isSoft(facts(slide))) },
        { name: "Without a capture time", slides: slides.filter((slide) => facts(slide)?.capturedAt === null) },
      ],
      ratings: [
        { name: "Keep", slides: slides.filter(({ rating }) => rating === "keep") },
        { name: "Maybe", slides: slides.filter(({ rating }) => rating === "maybe") },
        { name: "Left out", slides: slides.filter(({ rating }) => rating === "out") },
        { name: "Heroes", slides: slides.filter(({ hero }) => hero) },
      ],
      passages: passages.map((passage, index) => ({
        name: passage.name || `Passage ${index + 1}`,
        slides: slides.filter((slide) => slide.passageId === passage.id),
      })),
    };
  }, [show, media]);
}

function TimeDialog({
  onClose,
  onSelect,
}: {
  onClose: () => void;
  onSelect: (slides: readonly Slide[]) => void;
}): ReactNode {
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  const timed = show.slides
    .map((slide) => ({ slide, seconds: slideSeconds(media, show, slide) }))
    .filter((entry): entry is { slide: Slide; seconds: number } => entry.seconds !== null);
  const local = (seconds: number): string => new Date(seconds * 1000).toISOString().slice(0, 19);
  const all = timed.map(({ seconds }) => seconds);
  const [from, setFrom] = useState(all.length > 0 ? local(Math.min(...all)) : "");
  const [to, setTo] = useState(all.length > 0 ? local(Math.max(...all)) : "");
  const [start, end] = [Date.parse(`${from}Z`) / 1000, Date.parse(`${to}Z`) / 1000];
  // The end is meant with its whole second.
  const within = timed.filter(({ seconds }) => seconds >= start && seconds < end + 1).map(({ slide }) => slide);
  return (
    <DialogBox
      open
      onClose={onClose}
      title="Taken between"
      width={420}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            kind="primary"
            disabled={within.length === 0}
            onClick={() => {
              onSelect(within);
              onClose();
            }}
          >
            Select {within.length}
          </Button>
        </>
      }
    >
      {all.length === 0 ? (
        <p className="text-soft">None of these pictures says when it was taken.</p>
      ) : (
        <TimeFields from={from} onFrom={setFrom} to={to} onTo={setTo} />
      )}
    </DialogBox>
  );
}

interface TimeFieldsProps {
  from: string;
  onFrom: (value: string) => void;
  to: string;
  onTo: (value: string) => void;
}

/** The first and the last moment. */
function TimeFields({ from, onFrom, to, onTo }: TimeFieldsProps): ReactNode {
  return (
    <div className="flex gap-3">
      <Field
        className="flex-1"
        label="From"
        type="datetime-local"
        step={1}
        value={from}
        onChange={(event) => onFrom(event.target.value)}
      />
      <Field
        className="flex-1"
        label="To"
        type="datetime-local"
        step={1}
        value={to}
        onChange={(event) => onTo(event.target.value)}
      />
    </div>
  );
}

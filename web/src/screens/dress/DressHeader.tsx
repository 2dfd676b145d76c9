import { counted } from "@humming-tide/core/language";
import { present } from "@humming-tide/core/presence";
import {
  canGatherOnSlide,
  copyStyle,
  gatherOnSlide,
  type ShowDocument,
  type Slide,
  type StyleLevel,
  slideName,
} from "@humming-tide/core/show";
import { Copy, LayoutGrid } from "lucide-react";
import type { ReactNode } from "react";
import { CardMenu } from "../../cards/CardMenu.tsx";
import { ReplaceButton } from "../../replace/ReplaceButton.tsx";
import { edit } from "../../store/edit.ts";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";

/** What is dressed at a time. */
export type DressPart = "picture" | "change" | "look" | "words";

const PARTS: readonly { value: DressPart; label: string; hint: string }[] = [
  { value: "picture", label: "Picture", hint: "Framing and moves" },
  { value: "change", label: "Change", hint: "Transitions and how they land" },
  { value: "look", label: "Look", hint: "Tone, border, overlay and graphic" },
  { value: "words", label: "Words", hint: "Titles, captions and letters" },
];

interface DressHeaderProps {
  readonly show: ShowDocument;
  /** The slide at the playhead. */
  readonly slide: Slide;
  /** All that are selected, where it is one of them; else it alone. */
  readonly slideIds: ReadonlySet<string>;
  readonly passageName: string;
  readonly levelKind: StyleLevel["kind"];
  readonly onLevel: (next: StyleLevel["kind"]) => void;
  readonly part: DressPart;
  readonly onPart: (next: DressPart) => void;
  /** A card was added. */
  readonly onCardAdded: (slideId: string) => void;
  /** Pictures of several slides were put on one. */
  readonly onGathered: (slideId: string) => void;
}

/** Which slides are dressed, and what of them. */
export function DressHeader(props: DressHeaderProps): ReactNode {
  const { slide, slideIds, passageName, levelKind, onLevel, part, onPart, onCardAdded } = props;
  const many = slideIds.size > 1;
  return (
    <header className="sticky top-0 z-10 flex flex-col items-start gap-2 border-b border-line bg-raised px-4 pt-1 pb-3">
      <div className="flex w-full items-center">
        <p className="min-w-0 flex-1 truncate text-[13px] text-quiet" title={slideName(slide)}>
          {many ? `${counted(slideIds.size, "slide")}, now ${slideName(slide)}` : slideName(slide)}
        </p>
        {levelKind === "slides" && !many && <ReplaceButton slide={slide} />}
        <CardMenu slide={slide} onAdded={onCardAdded} className="-mr-3" />
      </div>
      <Choice
        label="Apply to"
        value={levelKind}
        options={[
          { value: "slides", label: many ? counted(slideIds.size, "slide") : "This slide" },
          { value: "passage", label: "Its passage", hint: passageName },
          { value: "show", label: "The show" },
        ]}
        onChange={onLevel}
      />
      {levelKind === "passage" && <p className="max-w-full truncate text-[13px] text-soft">{passageName}</p>}
      <Choice label="What of it" value={part} options={PARTS} onChange={onPart} />
      {levelKind === "slides" && many && <ForAllSelected {...props} />}
    </header>
  );
}

function ForAllSelected({ show, slide, slideIds, onGathered }: DressHeaderProps): ReactNode {
  const media = useAppSelector((state) => state.show.media);
  const isClip = (sha256: string): boolean => media[sha256]?.kind === "clip";
  return (
    <>
      <Button
        kind="quiet"
        className="-ml-3"
        onClick={() => edit((document) => copyStyle(document, slide.id, slideIds))}
      >
        <Copy size={14} aria-hidden /> Give all of them the style of this one
      </Button>
      {canGatherOnSlide(show, slideIds, isClip) && (
        <Button
          kind="quiet"
          className="-ml-3"
          onClick={() => {
            edit((document) => gatherOnSlide(document, slideIds));
            onGathered(present(show.slides.find(({ id }) => slideIds.has(id))).id);
          }}
        >
          <LayoutGrid size={14} aria-hidden /> Put their pictures on one slide
        </Button>
      )}
    </>
  );
}

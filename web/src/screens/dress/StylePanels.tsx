import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { shapeOf } from "@humming-tide/core/picture";
import type { ShowDocument, Slide, StyleLevel } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { fillPart, stylePart } from "../../style/style-part.ts";
import type { DressPart } from "./DressHeader.tsx";
import { FramingPanel, GroundPanel, type HeldEnd } from "./FramingPanel.tsx";
import { LandingPanel } from "./LandingPanel.tsx";
import { LayoutPanel } from "./LayoutPanel.tsx";
import { CaptionsPanel, LettersPanel } from "./LettersPanel.tsx";
import { EdgePanel, GraphicPanel, LookPanel, OverlayPanel } from "./LookPanels.tsx";
import { MovePanel } from "./MovePanel.tsx";
import { TransitionPanel } from "./TransitionPanel.tsx";
import { WordsPanel } from "./WordsPanel.tsx";

interface StylePanelsProps {
  readonly show: ShowDocument;
  /** In the shape that is on the stage. */
  readonly film: FilmPlan;
  readonly slot: FilmSlot;
  readonly slide: Slide;
  readonly level: StyleLevel;
  /** Only this slide is dressed. */
  readonly single: boolean;
  readonly part: DressPart;
  readonly held: HeldEnd;
  readonly onHold: (end: HeldEnd) => void;
  /** Transitions that are shorter than asked. */
  readonly shortened: number;
}

/** The panels of what is dressed now. */
export function StylePanels(props: StylePanelsProps): ReactNode {
  const { show, film, slot, slide, level, single, part, shortened } = props;
  switch (part) {
    case "picture":
      return <PicturePanels {...props} />;
    case "change":
      return (
        <>
          <TransitionPanel part={stylePart(show, level, "transition")} />
          <LandingPanel show={show} shortened={shortened} />
        </>
      );
    case "look":
      return (
        <>
          <LookPanel part={stylePart(show, level, "look")} />
          <EdgePanel part={stylePart(show, level, "edge")} />
          <OverlayPanel part={stylePart(show, level, "overlay")} />
          <GraphicPanel part={stylePart(show, level, "graphic")} />
        </>
      );
    case "words":
      return (
        <>
          {single && <WordsPanel film={film} slot={slot} slide={slide} letters={stylePart(show, level, "letters")} />}
          <CaptionsPanel part={stylePart(show, level, "captions")} />
          <LettersPanel part={stylePart(show, level, "letters")} />
        </>
      );
  }
}

function PicturePanels({ show, film, slot, slide, level, single, held, onHold }: StylePanelsProps): ReactNode {
  const isCard = slide.sha256 === null;
  const fill = fillPart(show, level, shapeOf(film.size));
  return (
    <>
      {isCard ? (
        <GroundPanel show={show} part={fill} />
      ) : (
        <FramingPanel show={show} plan={film} slot={slot} part={fill} single={single} held={held} onHold={onHold} />
      )}
      {single && slide.more.length > 0 && <LayoutPanel show={show} slide={slide} />}
      {(!isCard || level.kind !== "slides") && <MovePanel part={stylePart(show, level, "move")} show={show} />}
    </>
  );
}

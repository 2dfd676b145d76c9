import { lastOf } from "@humming-tide/core/presence";
import {
  dayText,
  insertSlides,
  newCard,
  newWords,
  type ShowDocument,
  type Slide,
  type Words,
} from "@humming-tide/core/show";
import { SquarePlus } from "lucide-react";
import type { ReactNode } from "react";
import { edit } from "../store/edit.ts";
import { newId } from "../store/new-id.ts";
import { WORD_NAMES } from "../style/style-words.ts";
import { Button } from "../ui/Button.tsx";
import { Menu, MenuHeading, MenuItem } from "../ui/Menu.tsx";

const COLOUR = "#0d1f26";
/** How long cards wish to stand, in seconds. Titles 5 to 8 s: common practice. */
const SECONDS: Readonly<Record<CardKind, number>> = { title: 6, text: 6, end: 6, credits: 12 };
type CardKind = Exclude<Words["kind"], "lower-third">;

interface CardMenuProps {
  slide: Slide;
  onAdded: (id: string) => void;
  className?: string;
}

/** New cards: a title or a text before a slide, an end card or credits behind the last one. */
export function CardMenu({ slide, onAdded, className = "" }: CardMenuProps): ReactNode {
  const add = (kind: CardKind): void => {
    const id = newId();
    edit((show) => withCard(show, id, kind, slide));
    onAdded(id);
  };
  return (
    <Menu
      align="end"
      trigger={
        <Button kind="quiet" className={className}>
          <SquarePlus size={14} aria-hidden /> Card
        </Button>
      }
    >
      <MenuHeading>Before this slide</MenuHeading>
      <MenuItem onSelect={() => add("title")}>{WORD_NAMES.title}</MenuItem>
      <MenuItem onSelect={() => add("text")}>{WORD_NAMES.text}</MenuItem>
      <MenuHeading>At the end of the film</MenuHeading>
      <MenuItem onSelect={() => add("end")}>{WORD_NAMES.end}</MenuItem>
      <MenuItem onSelect={() => add("credits")}>{WORD_NAMES.credits}</MenuItem>
    </Menu>
  );
}

function withCard(show: ShowDocument, id: string, kind: CardKind, slide: Slide): ShowDocument {
  const card = newCard(id, [newWords(kind, textOf(show, kind))], COLOUR, SECONDS[kind]);
  const isFirst = kind === "title" || kind === "text";
  return insertSlides(show, [card], {
    passageId: isFirst ? slide.passageId : lastOf(show.passages).id,
    beforeId: isFirst ? slide.id : null,
  });
}

/** What the show says of itself is a beginning. */
function textOf({ title, event, date, client, songs }: ShowDocument, kind: CardKind): string {
  const day = dayText(date);
  switch (kind) {
    case "title":
      return [title, [event, day].filter(Boolean).join(", ")].filter(Boolean).join("\n");
    case "text":
      return "";
    case "end":
      return ["Thank you", day].filter(Boolean).join("\n");
    case "credits":
      return ["For:", client || event || title, "", "Music:", ...songs.map(songName)].join("\n");
  }
}

const songName = ({ fileName }: ShowDocument["songs"][number]): string => fileName.replace(/\.\w+$/, "");

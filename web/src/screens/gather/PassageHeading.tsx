import {
  addPassage,
  changePassage,
  changeStyle,
  joinPassage,
  type Passage,
  type Slide,
  shiftPassage,
} from "@humming-tide/core/show";
import { Ellipsis } from "lucide-react";
import type { ReactNode } from "react";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { TransitionSelect } from "../../style/TransitionSelect.tsx";
import { IconButton } from "../../ui/Button.tsx";
import { Menu, MenuItem, MenuLine } from "../../ui/Menu.tsx";
import { useTypedText } from "../../ui/use-typed-text.ts";
import { contentText, slideSeconds, spanText } from "./slide-facts.ts";

interface PassageHeadingProps {
  passage: Passage;
  /** Those of its slides that the sheet shows. */
  slides: readonly Slide[];
}

/**
 * The heading of a passage on the sheet: its name, what it holds, its own transition, and what can
 * be done with it as a whole.
 */
export function PassageHeading({ passage, slides }: PassageHeadingProps): ReactNode {
  const passages = useOpenShow((show) => show.passages);
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  const index = passages.findIndex(({ id }) => id === passage.id);
  const times = slides.map((slide) => slideSeconds(media, show, slide)).filter((seconds) => seconds !== null);
  const span = times.length > 0 ? spanText(Math.min(...times), Math.max(...times)) : "";
  const name = passage.name || `Passage ${index + 1}`;
  return (
    <div className="flex min-w-0 flex-1 items-center gap-3 border-t border-line pt-2 pb-1" data-testid="passage">
      <NameField passage={passage} fallback={`Passage ${index + 1}`} />
      <span className="shrink-0 text-[13px] text-quiet">
        {contentText(media, slides)}
        {span && `, ${span}`}
      </span>
      <span className="flex-1" />
      <TransitionSelect
        label={`Transition of ${name}`}
        transition={passage.style.transition}
        className="shrink-0"
        onChange={(transition) =>
          edit((document) => changeStyle(document, { kind: "passage", passageId: passage.id }, { transition }))
        }
      />
      <PassageMenu name={name} slides={slides} index={index} passage={passage} />
    </div>
  );
}

interface PassageMenuProps {
  name: string;
  slides: readonly Slide[];
  index: number;
  passage: Passage;
}

/** What can be done with the passage as a whole. */
function PassageMenu({ name, slides, index, passage }: PassageMenuProps): ReactNode {
  const dispatch = useAppDispatch();
  const passages = useOpenShow((show) => show.passages);
  return (
    <Menu
      align="end"
      trigger={
        <IconButton label={`More for ${name}`}>
          <Ellipsis size={17} />
        </IconButton>
      }
    >
      <MenuItem
        onSelect={() => dispatch(selectionActions.selected({ ids: slides.map(({ id }) => id) }))}
        aside={slides.length}
        disabled={slides.length === 0}
      >
        Select its slides
      </MenuItem>
      <MenuLine />
      <MenuItem disabled={index === 0} onSelect={() => edit((document) => joinPassage(document, passage.id))}>
        Join with the passage before
      </MenuItem>
      <MenuItem disabled={index === 0} onSelect={() => edit((document) => shiftPassage(document, passage.id, -1))}>
        Move before it
      </MenuItem>
      <MenuItem
        disabled={index === passages.length - 1}
        onSelect={() => edit((document) => shiftPassage(document, passage.id, 1))}
      >
        Move after the next
      </MenuItem>
      <MenuItem onSelect={() => edit((document) => addPassage(document, passage.id, ""))}>
        Add an empty passage after it
      </MenuItem>
    </Menu>
  );
}

function NameField({ passage, fallback }: { passage: Passage; fallback: string }): ReactNode {
  const { text, type, commit } = useTypedText(passage.name, (typed) => {
    const name = typed.trim().slice(0, 200);
    if (name !== passage.name) edit((document) => changePassage(document, passage.id, { name }));
  });
  return (
    <input
      aria-label="Name of the passage"
      value={text}
      placeholder={fallback}
      maxLength={200}
      onChange={(event) => type(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      className="-ml-1.5 min-w-0 max-w-[320px] field-sizing-content truncate rounded bg-transparent px-1.5 py-0.5 font-heading text-[18px] text-ink placeholder:text-soft hover:bg-high focus:bg-high"
    />
  );
}

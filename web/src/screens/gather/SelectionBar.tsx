import { itemAt } from "@humming-tide/core/presence";
import { gatherPassage, hasPicture, moveSlides, orderSlides, type Slide } from "@humming-tide/core/show";
import { RotateCcw, RotateCw } from "lucide-react";
import { type ReactNode, useState } from "react";
import { ReplaceDialog } from "../../replace/ReplaceDialog.tsx";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { allHeroes, beginPassageAt, makePoster, rate, takeOut, toggleHero, turn } from "../../store/slide-actions.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { Field } from "../../ui/Field.tsx";
import { Menu, MenuHeading, MenuItem, MenuLine } from "../../ui/Menu.tsx";
import { slideSeconds } from "./slide-facts.ts";

/**
 * What can be done with what is selected. Every button says how many it will change, so that none
 * is changed that nobody meant.
 */
export function SelectionBar(): ReactNode {
  const dispatch = useAppDispatch();
  const ids = useAppSelector((state) => state.selection.ids);
  const show = useOpenShow();
  const [moving, setMoving] = useState(false);
  const [replacing, setReplacing] = useState(false);
  // What an undo has taken out of the show can still be in the selection.
  const slides = show.slides.filter((slide) => ids.has(slide.id));
  const [first] = slides;
  if (!first) return null;
  const selected = new Set(slides.map(({ id }) => id));
  const count = selected.size;
  const heroes = allHeroes(show, selected);
  return (
    <div
      role="toolbar"
      aria-label={`Change ${count} selected`}
      data-testid="selection-bar"
      className="absolute inset-x-4 bottom-3 z-20 flex flex-wrap items-center gap-1.5 rounded-lg border border-line-strong/60 bg-raised px-2.5 py-2 shadow-2xl"
    >
      <Button onClick={() => rate(selected, "keep")}>Keep {count}</Button>
      <Button onClick={() => rate(selected, "maybe")}>Maybe {count}</Button>
      <Button onClick={() => rate(selected, "out")}>Leave out {count}</Button>
      <Button onClick={() => toggleHero(selected)}>{heroes ? `No hero: ${count}` : `Hero ${count}`}</Button>
      <IconButton label={`Turn ${count} to the left`} onClick={() => turn(selected, -1)}>
        <RotateCcw size={16} />
      </IconButton>
      <IconButton label={`Turn ${count} to the right`} onClick={() => turn(selected, 1)}>
        <RotateCw size={16} />
      </IconButton>
      <MoreMenu
        count={count}
        first={first}
        onMoving={setMoving}
        onReplace={() => setReplacing(true)}
        selected={selected}
      />
      <span className="flex-1" />
      <Button kind="quiet" onClick={() => takeOut(selected)}>
        Take {count} out of the show
      </Button>
      <Button kind="quiet" onClick={() => dispatch(selectionActions.selected({ ids: [] }))}>
        Clear
      </Button>
      {moving && <MoveDialog ids={selected} onClose={() => setMoving(false)} />}
      {replacing && <ReplaceDialog slideId={first.id} onClose={() => setReplacing(false)} />}
    </div>
  );
}

interface MoreMenuProps {
  count: number;
  first: Slide;
  onMoving: (value: boolean) => void;
  onReplace: () => void;
  selected: Set<string>;
}

/** What is done less often. */
function MoreMenu({ count, first, onMoving, onReplace, selected }: MoreMenuProps): ReactNode {
  const show = useOpenShow();
  return (
    <Menu trigger={<Button kind="quiet">More for {count} …</Button>}>
      <MenuItem disabled={count !== 1} onSelect={() => makePoster(first.id)}>
        Use as the show’s poster
      </MenuItem>
      <MenuItem disabled={count !== 1 || !hasPicture(first)} onSelect={onReplace}>
        Replace the picture …
      </MenuItem>
      <MenuLine />
      <MenuItem onSelect={() => onMoving(true)}>Move to a place in the film …</MenuItem>
      <MenuItem
        onSelect={() =>
          edit((document) =>
            orderSlides(document, selected, {
              kind: "time",
              secondsOf: (slide) => slideSeconds(store.getState().show.media, document, slide),
            }),
          )
        }
      >
        Order by capture time, among themselves
      </MenuItem>
      <MenuItem onSelect={() => edit((document) => orderSlides(document, selected, { kind: "name" }))}>
        Order by file name, among themselves
      </MenuItem>
      <MenuLine />
      <MenuItem onSelect={() => beginPassageAt(first.id)} aside="P">
        Begin a passage at the first
      </MenuItem>
      <MenuItem onSelect={() => edit((document) => gatherPassage(document, selected, ""))}>
        Move into a passage of their own
      </MenuItem>
      <MenuHeading>Move into the passage</MenuHeading>
      {show.passages.map((passage, index) => (
        <MenuItem
          key={passage.id}
          onSelect={() => edit((document) => moveSlides(document, selected, { passageId: passage.id, beforeId: null }))}
        >
          {passage.name || `Passage ${index + 1}`}
        </MenuItem>
      ))}
    </Menu>
  );
}

function MoveDialog({ ids, onClose }: { ids: ReadonlySet<string>; onClose: () => void }): ReactNode {
  const slides = useOpenShow((show) => show.slides);
  const [text, setText] = useState("1");
  const place = Number(text);
  const valid = Number.isInteger(place) && place >= 1 && place <= slides.length;
  const move = (): void => {
    const before = itemAt(slides, place - 1);
    edit((show) => moveSlides(show, ids, { passageId: before.passageId, beforeId: before.id }));
    onClose();
  };
  return (
    <DialogBox
      open
      onClose={onClose}
      title={`Move ${ids.size} in the film`}
      width={380}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" disabled={!valid} onClick={move}>
            Move {ids.size}
          </Button>
        </>
      }
    >
      <Field
        label="In front of the picture that is now number"
        type="number"
        min={1}
        max={slides.length}
        value={text}
        autoFocus
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && valid && move()}
        hint={`1 to ${slides.length}`}
      />
    </DialogBox>
  );
}

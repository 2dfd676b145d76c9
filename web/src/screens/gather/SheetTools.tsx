import { counted } from "@humming-tide/core/language";
import { lockOrder, orderSlides, type Rating, type ShowDocument } from "@humming-tide/core/show";
import { Layers, LockKeyhole } from "lucide-react";
import { type ReactNode, useState } from "react";
import { useLetters } from "../../keys/letters.ts";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { Menu, MenuHeading, MenuItem, MenuLine } from "../../ui/Menu.tsx";
import { ClockDialog } from "./ClockDialog.tsx";
import { gatherActions, keepFolds, type SheetFilter, selectGather } from "./gather-slice.ts";
import { PassagesDialog } from "./PassagesDialog.tsx";
import { SelectMenu } from "./SelectMenu.tsx";
import { ShuffleDialog } from "./ShuffleDialog.tsx";
import { SlideListDialog } from "./SlideListDialog.tsx";
import { contentText, slideSeconds } from "./slide-facts.ts";

type Open = "clocks" | "passages" | "list" | "shuffle" | null;

/**
 * Above the sheet, always in sight: how many of what there are, which of them are shown, and tools
 * for the whole show.
 */
export function SheetTools({ children }: { children: ReactNode }): ReactNode {
  const dispatch = useAppDispatch();
  const show = useOpenShow();
  const { filter, size } = useAppSelector(selectGather);
  const [open, setOpen] = useState<Open>(null);
  const close = (): void => setOpen(null);
  return (
    <div className="shrink-0 border-b border-line px-5 pt-3 pb-2">
      <div className="flex items-center gap-2">
        <h1 className="mr-auto text-xl whitespace-nowrap">{useHeading()}</h1>
        <SelectMenu />
        <OrderMenu onOpen={setOpen} />
        <Button onClick={() => setOpen("passages")}>Passages …</Button>
        {children}
      </div>
      <div className="mt-1.5 flex items-center justify-between gap-3">
        <Choice
          label="Which pictures are shown"
          value={filter}
          options={filterOptions(show)}
          onChange={(value: SheetFilter) => {
            dispatch(gatherActions.filterChosen(value));
            // Nobody changes what they do not see.
            dispatch(selectionActions.selected({ ids: [] }));
          }}
        />
        <FoldAlike />
        <FilmCounts />
        {show.orderLocked && (
          <span className="flex shrink-0 items-center gap-1 text-[13px] text-heather">
            <LockKeyhole size={14} aria-hidden /> order locked
          </span>
        )}
        <div className="shrink-0">
          <Choice
            label="Size of the pictures"
            value={size}
            options={[
              { value: "small", label: "S" },
              { value: "medium", label: "M" },
              { value: "large", label: "L" },
            ]}
            onChange={(value) => dispatch(gatherActions.sizeChosen(value))}
          />
        </div>
      </div>
      {open === "clocks" && <ClockDialog onClose={close} />}
      {open === "passages" && <PassagesDialog onClose={close} />}
      {open === "list" && <SlideListDialog onClose={close} />}
      {open === "shuffle" && <ShuffleDialog onClose={close} />}
    </div>
  );
}

/** Lays near-identical pictures in stacks; there where some are alike. */
function FoldAlike(): ReactNode {
  const dispatch = useAppDispatch();
  const { moments, foldsAlike } = useAppSelector(selectGather);
  const letters = useLetters();
  if (moments.length === 0) return null;
  const fold = (isOn: boolean): void => {
    keepFolds(isOn);
    dispatch(gatherActions.foldsChosen(isOn));
    // Nobody changes what they do not see.
    dispatch(selectionActions.selected({ ids: [] }));
  };
  return (
    <Button
      kind="quiet"
      className="shrink-0 whitespace-nowrap"
      aria-pressed={foldsAlike}
      title={`Near-identical pictures lie in one stack, the best on top; ${letters.choose.toUpperCase()} chooses it, ${letters.compare.toUpperCase()} compares them`}
      onClick={() => fold(!foldsAlike)}
    >
      <Layers size={14} aria-hidden /> {foldsAlike ? "Unfold alike" : "Fold alike"}
    </Button>
  );
}

interface OrderMenuProps {
  onOpen: (value: Open) => void;
}

/** All ways to put pictures in order. */
function OrderMenu({ onOpen }: OrderMenuProps): ReactNode {
  const show = useOpenShow();
  return (
    <Menu trigger={<Button>Order …</Button>}>
      <MenuItem disabled={show.orderLocked} onSelect={() => orderByTime(show)}>
        By capture time
      </MenuItem>
      <MenuItem
        disabled={show.orderLocked}
        onSelect={() => edit((document) => orderSlides(document, null, { kind: "name" }))}
      >
        By file name, 2 before 10
      </MenuItem>
      <MenuItem disabled={show.orderLocked} onSelect={() => onOpen("shuffle")}>
        Shuffled …
      </MenuItem>
      {show.passages.length > 1 && <MenuHeading>Each passage keeps its pictures</MenuHeading>}
      <MenuLine />
      <MenuItem onSelect={() => edit((document) => lockOrder(document, !document.orderLocked))}>
        {show.orderLocked ? "Unlock the client’s order" : "Lock: it is the client’s order"}
      </MenuItem>
      <MenuItem onSelect={() => onOpen("clocks")}>Camera clocks …</MenuItem>
      <MenuLine />
      <MenuItem onSelect={() => onOpen("list")}>List as CSV …</MenuItem>
    </Menu>
  );
}

function useHeading(): string {
  const slides = useOpenShow((show) => show.slides);
  return contentText(
    useAppSelector((state) => state.show.media),
    slides,
  );
}

function filterOptions(show: ShowDocument): { value: SheetFilter; label: string }[] {
  const count = (rating: Rating): number => show.slides.filter((slide) => slide.rating === rating).length;
  return [
    { value: "all", label: "All" },
    { value: "keep", label: `${count("keep")} keep` },
    { value: "maybe", label: `${count("maybe")} maybe` },
    { value: "out", label: `${count("out")} left out` },
    {
      value: "hero",
      label: counted(show.slides.filter(({ hero }) => hero).length, "hero", "heroes"),
    },
  ];
}

/** How many of the pictures the film shows. */
function FilmCounts(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  if (!plan) return null;
  const used = new Set(plan.slots.map(({ slideId }) => slideId)).size;
  return (
    <span className="min-w-0 truncate text-[13px] text-quiet" data-testid="film-counts">
      in the film {used}
      {plan.leftOut.length > 0 && ` · no room for ${plan.leftOut.length}`}
      {plan.repeats > 0 && ` · repeated ${plan.repeats}`}
    </span>
  );
}

function orderByTime(show: ShowDocument): void {
  const { media } = store.getState().show;
  edit((document) =>
    orderSlides(document, null, { kind: "time", secondsOf: (slide) => slideSeconds(media, show, slide) }),
  );
}

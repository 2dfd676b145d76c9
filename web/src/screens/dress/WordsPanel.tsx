import { DEFAULT_PLACES, type FilmPlan, type FilmSlot } from "@humming-tide/core/film";
import {
  changeSlides,
  type Letters,
  newWords,
  type Slide,
  WORD_KINDS,
  type WordPlace,
  type Words,
  withText,
} from "@humming-tide/core/show";
import { ChevronDown, ChevronRight, Plus, Trash2, TriangleAlert } from "lucide-react";
import { type ReactNode, useEffect, useId, useRef, useState } from "react";
import { edit } from "../../store/edit.ts";
import type { StylePart } from "../../style/style-part.ts";
import { WORD_NAMES } from "../../style/style-words.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Menu, MenuItem } from "../../ui/Menu.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { PlaceField } from "../../ui/PlaceField.tsx";
import { ShareSlider } from "../../ui/ShareSlider.tsx";
import { BlockLetters } from "./BlockLetters.tsx";
import { type Legibility, useLegibility } from "./use-legibility.ts";

const MOST_WORDS = 4;
const HINTS: Readonly<Record<Words["kind"], string>> = {
  title: "The first line is large, the others smaller.",
  text: "Lines as you write them; long ones wrap.",
  "lower-third": "A name, and below it who that is.",
  end: "The first line is large, the others smaller.",
  credits: "They scroll. A line that ends with “:” is a heading.",
};
const BOX = "w-full resize-y rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink";

interface WordsPanelProps {
  film: FilmPlan;
  slot: FilmSlot;
  slide: Slide;
  letters: StylePart<Letters>;
}

/** What is written on one slide: its caption, and other words. */
export function WordsPanel({ film, slot, slide, letters }: WordsPanelProps): ReactNode {
  const legibility = useLegibility(film, slot);
  const { sheet } = slot.words;
  const of = (kind: string, text: string): Legibility | undefined =>
    legibility[sheet.findIndex((words) => words.kind === kind && words.text === text)];
  const setWords = (words: Words[], tag: string | null = null): void =>
    edit((show) => changeSlides(show, new Set([slide.id]), { words }), tag);
  const captionId = useId();
  const [added, setAdded] = useState<number | null>(null);
  const add = (kind: Words["kind"]): void => {
    setAdded(slide.words.length);
    setWords([...slide.words, newWords(kind, "")]);
  };
  return (
    <Panel title="Words on this slide" aside={slide.words.length < MOST_WORDS && <AddWords onAdd={add} />}>
      {slide.sha256 !== null && <CaptionField id={captionId} slide={slide} of={of} letters={letters} />}
      {slide.words.map((words, index) => (
        <WordsFields
          // biome-ignore lint/suspicious/noArrayIndexKey: words have no other name, and are never put in another order
          key={index}
          words={words}
          place={sheet.find(({ kind, text }) => kind === words.kind && text === words.text)?.place}
          isAdded={index === added}
          style={letters.value}
          onChange={(changed, tag) =>
            setWords(
              slide.words.map((other, i) => (i === index ? changed : other)),
              tag,
            )
          }
          onRemove={() => setWords(slide.words.filter((_, i) => i !== index))}
        >
          <Report legibility={of(words.kind, words.text)} letters={letters} />
        </WordsFields>
      ))}
    </Panel>
  );
}

interface CaptionFieldProps {
  id: string;
  slide: Slide;
  of: (kind: string, text: string) => Legibility | undefined;
  letters: StylePart<Letters>;
}

/** The slide's caption, and whether it can be read. */
function CaptionField({ id, slide, of, letters }: CaptionFieldProps): ReactNode {
  return (
    <>
      <label htmlFor={id} className="mb-1 block text-[13px] text-soft">
        Caption
      </label>
      <textarea
        id={id}
        rows={2}
        maxLength={2000}
        value={slide.caption}
        placeholder="Nothing is written on the picture"
        className={BOX}
        onChange={({ target }) =>
          edit((show) => changeSlides(show, new Set([slide.id]), { caption: target.value }), `caption of ${slide.id}`)
        }
      />
      <Report legibility={of("caption", slide.caption)} letters={letters} />
    </>
  );
}

/** Every kind of words that can be added. */
function AddWords({ onAdd }: { onAdd: (kind: Words["kind"]) => void }): ReactNode {
  return (
    <Menu
      align="end"
      trigger={
        <Button kind="quiet" className="-mr-3">
          <Plus size={14} aria-hidden /> Words
        </Button>
      }
    >
      {WORD_KINDS.map((kind) => (
        <MenuItem key={kind} onSelect={() => onAdd(kind)}>
          {WORD_NAMES[kind]}
        </MenuItem>
      ))}
    </Menu>
  );
}

/** Seen in an empty field only, and never in the film. */
const EXAMPLES: Readonly<Record<Words["kind"], string>> = {
  title: "Closing night\nof the lantern regatta",
  text: "The lanterns are lit when the last crew is ashore.",
  "lower-third": "Name\nWho that is",
  end: "Thank you",
  credits: "With:\nThe crew of the Firefly\n\nMusic:\nLanterns on the Water",
};

function WordsFields({
  words,
  place = words.place ?? DEFAULT_PLACES[words.kind],
  isAdded,
  style,
  onChange,
  onRemove,
  children,
}: {
  words: Words;
  /** Where they are seen, if they are. */
  place?: WordPlace | undefined;
  /** They were added just now: the cursor goes into them. */
  isAdded: boolean;
  /** The letters of its slide. */
  style: Letters;
  onChange: (words: Words, tag: string | null) => void;
  onRemove: () => void;
  children: ReactNode;
}): ReactNode {
  const id = useId();
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    if (isAdded) field.current?.focus();
  }, [isAdded]);
  const [showsLetters, setShowsLetters] = useState(false);
  const { kind } = words;
  return (
    <fieldset className="mt-3 min-w-0 border-t border-line pt-3">
      <legend className="sr-only">{WORD_NAMES[kind]}</legend>
      <div className="mb-1 flex items-center justify-between gap-2">
        <label htmlFor={id} className="text-[13px] text-soft">
          {WORD_NAMES[kind]}
        </label>
        <IconButton label={`Remove the ${WORD_NAMES[kind].toLowerCase()}`} onClick={onRemove}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      <textarea
        ref={field}
        id={id}
        placeholder={EXAMPLES[kind]}
        rows={kind === "credits" ? 8 : kind === "text" ? 4 : 2}
        maxLength={8000}
        value={words.text}
        className={BOX}
        onChange={({ target }) => onChange(withText(words, target.value), `text of ${id}`)}
      />
      <p className="mt-0.5 text-xs text-quiet">{HINTS[kind]}</p>
      {children}
      <div className="mt-2 flex items-center gap-4">
        {kind !== "credits" && (
          <PlaceField
            label={`Place of the ${WORD_NAMES[kind].toLowerCase()}`}
            value={place}
            onChange={(next) => onChange({ ...words, place: next }, `place of ${id}`)}
          />
        )}
        <div className="flex-1">
          <ShareSlider
            label="Size"
            value={words.size}
            min={0.4}
            max={2.5}
            onChange={(size) => onChange({ ...words, size }, `size of ${id}`)}
          />
        </div>
      </div>
      <Button
        kind="quiet"
        className="mt-1 -ml-3"
        aria-expanded={showsLetters}
        onClick={() => setShowsLetters(!showsLetters)}
      >
        {showsLetters ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
        Letters of these words
      </Button>
      {showsLetters && <BlockLetters words={words} style={style} onChange={onChange} />}
    </fieldset>
  );
}

/** How the words came out: contrast, and what a person should know. */
function Report({
  legibility,
  letters,
}: {
  legibility: Legibility | undefined;
  letters: StylePart<Letters>;
}): ReactNode {
  if (!legibility) return null;
  const { contrast, wanted, backing, missing, overflows, isShrunk, raised } = legibility;
  const isPoor = contrast < wanted;
  return (
    <div className="mt-1 flex flex-col gap-1 text-xs" aria-live="polite">
      <p className={isPoor ? "text-warning" : "text-quiet"}>
        {isPoor && <TriangleAlert size={12} className="mr-1 inline align-[-1px]" aria-hidden />}
        Contrast with the picture {contrast.toFixed(1)} : 1{isPoor ? `, ${wanted} : 1 is wanted.` : ", good to read."}
      </p>
      {backing && (
        <Button kind="quiet" className="-ml-3 self-start" onClick={() => letters.set({ ...letters.value, backing })}>
          Add a soft background
        </Button>
      )}
      {overflows && <p className="text-warning">Too long to fit: shorten it, or choose a smaller size.</p>}
      {!overflows && isShrunk && <p className="text-quiet">Set smaller than asked, so that it fits.</p>}
      {raised.length > 0 && <p className="text-quiet">{raised.join(" and ")} would not be read smaller than this.</p>}
      {missing.length > 0 && (
        <p className="text-warning">
          No font here has {missing.map((letter) => `“${letter}”`).join(", ")}: shown as a box.
        </p>
      )}
    </div>
  );
}

import {
  ALIGNMENTS,
  type BlockWishes,
  ENTRANCES,
  FIRST_STYLE,
  type Letters,
  type LineWishes,
  lineWishes,
  TITLE_SETS,
  type TitleSet,
  type Words,
  withLineWishes,
} from "@humming-tide/core/show";
import { type ReactNode, useId } from "react";
import { CAPITALS_NAMES, ENTRANCE_NAMES, TITLE_SET_NAMES } from "../../style/style-words.ts";
import { Choice } from "../../ui/Choice.tsx";
import { ColourField } from "../../ui/ColourField.tsx";
import { ShareSlider } from "../../ui/ShareSlider.tsx";
import { Tick } from "../../ui/Tick.tsx";
import { FontSelect } from "./FontSelect.tsx";
import { SELECT } from "./select-style.ts";

interface BlockLettersProps {
  words: Words;
  /** As its slide has it. */
  style: Letters;
  onChange: (words: Words, tag: string | null) => void;
}

const ALIGNMENT_NAMES = { left: "Left", middle: "Middle", right: "Right" } as const;

/** Letters of one block of words, and of each of its lines, where they differ from the slide's. */
export function BlockLetters({ words, style, onChange }: BlockLettersProps): ReactNode {
  const id = useId();
  const { letters } = words;
  const set = (change: Partial<BlockWishes>, tag: string | null = null): void =>
    onChange({ ...words, letters: { ...letters, ...change } }, tag);
  return (
    <div className="mt-2 flex flex-col gap-3 border-l-2 border-line pl-3">
      <Row label="Title set" htmlFor={`${id} set`}>
        <select
          id={`${id} set`}
          className={SELECT}
          value={letters.titleSet ?? ""}
          onChange={({ target }) => set({ titleSet: (target.value || null) as TitleSet | null })}
        >
          <option value="">As the slide has it</option>
          {TITLE_SETS.map((name) => (
            <option key={name} value={name}>
              {TITLE_SET_NAMES[name]}
            </option>
          ))}
        </select>
      </Row>
      {words.kind !== "credits" && (
        <>
          <Row label="Appear" htmlFor={`${id} entrance`}>
            <select
              id={`${id} entrance`}
              className={SELECT}
              value={letters.entrance ?? ""}
              onChange={({ target }) => set({ entrance: (target.value || null) as BlockWishes["entrance"] })}
            >
              <option value="">As the slide has it</option>
              {ENTRANCES.map((name) => (
                <option key={name} value={name}>
                  {ENTRANCE_NAMES[name]}
                </option>
              ))}
            </select>
          </Row>
          <Choice
            label="Alignment of the lines"
            value={letters.align ?? "place"}
            options={[
              { value: "place", label: "By place", hint: "Towards the side of the frame where they stand" },
              ...ALIGNMENTS.map((value) => ({ value, label: ALIGNMENT_NAMES[value] })),
            ]}
            onChange={(next) => set({ align: next === "place" ? null : next })}
          />
        </>
      )}
      <ShareSlider
        label="Distance of lines"
        value={letters.lineSpacing ?? 1}
        min={0.7}
        max={2}
        onChange={(lineSpacing) => set({ lineSpacing }, `line spacing of ${id}`)}
      />
      <ShareSlider
        label="Shadow of these words"
        value={letters.shadow ?? style.shadow}
        onChange={(shadow) => set({ shadow }, `shadow of ${id}`)}
      />
      <ColourField
        label="Colour of these words"
        value={letters.colour ?? style.colour}
        onChange={(colour) => set({ colour }, `colour of ${id}`)}
      />
      {words.kind !== "credits" &&
        words.text.split("\n").map((line, index) =>
          line.trim() === "" ? null : (
            <LineFields
              // biome-ignore lint/suspicious/noArrayIndexKey: a line is its place in the text
              key={index}
              line={line}
              number={index + 1}
              wishes={lineWishes(words, index + 1)[index]}
              onChange={(change, tag) =>
                onChange(withLineWishes(words, index, change), tag && `${tag} ${index} of ${id}`)
              }
            />
          ),
        )}
    </div>
  );
}

interface LineFieldsProps {
  line: string;
  number: number;
  wishes: LineWishes | undefined;
  onChange: (change: Partial<LineWishes>, tag: string | null) => void;
}

/** What one line does differently. */
function LineFields({ line, number, wishes, onChange }: LineFieldsProps): ReactNode {
  if (!wishes) return null;
  const isOwn = Object.values(wishes).some((value) => value !== null);
  return (
    <details className="group" open={isOwn || undefined}>
      <summary className="cursor-pointer truncate text-[13px] text-soft hover:text-ink">
        Line {number}: <span className="text-ink">{line}</span>
      </summary>
      <div className="mt-2 flex flex-col gap-2">
        <FontSelect
          label={`Font of line ${number}`}
          value={wishes.font}
          none="As the title set has it"
          onChange={(font) => onChange({ font }, null)}
        />
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          <Tick
            label="Bold"
            checked={wishes.weight === 700}
            onChange={(on) => onChange({ weight: on ? 700 : null }, null)}
          />
          <Tick
            label="Italic"
            checked={wishes.italic === true}
            onChange={(on) => onChange({ italic: on ? true : null }, null)}
          />
        </div>
        <Choice
          label={`Capitals of line ${number}`}
          value={wishes.capitals ?? "set"}
          options={[{ value: "set", label: "As set" }, ...CAPITALS_NAMES]}
          onChange={(next) => onChange({ capitals: next === "set" ? null : next }, null)}
        />
        <ShareSlider
          label={`Size of line ${number}`}
          value={wishes.size ?? 1}
          min={0.3}
          max={3}
          onChange={(size) => onChange({ size }, "size of line")}
        />
        <ShareSlider
          label={`Room between letters of line ${number}`}
          value={wishes.spacing ?? 0}
          min={-0.05}
          max={0.5}
          step={0.01}
          onChange={(spacing) => onChange({ spacing }, "spacing of line")}
        />
        <ColourField
          label={`Colour of line ${number}`}
          value={wishes.colour ?? FIRST_STYLE.letters.colour}
          onChange={(colour) => onChange({ colour }, "colour of line")}
        />
        {isOwn && (
          <button
            type="button"
            className="self-start text-[13px] text-soft underline underline-offset-2 hover:text-ink"
            onClick={() =>
              onChange(
                { font: null, weight: null, italic: null, size: null, spacing: null, capitals: null, colour: null },
                null,
              )
            }
          >
            As the title set has it
          </button>
        )}
      </div>
    </details>
  );
}

function Row({ label, htmlFor, children }: { label: string; htmlFor: string; children: ReactNode }): ReactNode {
  return (
    <div className="flex items-center gap-3">
      <label htmlFor={htmlFor} className="w-20 shrink-0 text-[13px] text-soft">
        {label}
      </label>
      {children}
    </div>
  );
}

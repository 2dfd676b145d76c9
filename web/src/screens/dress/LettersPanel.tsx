import { present } from "@humming-tide/core/presence";
import { type CaptionStyle, ENTRANCES, FILM_FONTS, type FilmFont, type Letters } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import type { StylePart } from "../../style/style-part.ts";
import { CAPITALS_NAMES, ENTRANCE_NAMES } from "../../style/style-words.ts";
import { Choice } from "../../ui/Choice.tsx";
import { ColourField } from "../../ui/ColourField.tsx";
import { PlaceField } from "../../ui/PlaceField.tsx";
import { ShareSlider } from "../../ui/ShareSlider.tsx";
import { StylePanel } from "./StylePanel.tsx";
import { SELECT } from "./select-style.ts";
import { TitleSetField } from "./TitleSetField.tsx";

const SMALL = "mt-3 mb-1 font-sans text-[13px] text-quiet";

/** Fades that are offered, by name. */
const FADES = {
  none: null,
  "half-beat": { unit: "beats", count: 0.5 },
  beat: { unit: "beats", count: 1 },
  "two-beats": { unit: "beats", count: 2 },
  "four-beats": { unit: "beats", count: 4 },
} as const satisfies Record<string, Letters["fade"]>;
type FadeName = keyof typeof FADES;
const FADE_NAMES: readonly { value: FadeName; label: string; hint?: string }[] = [
  { value: "none", label: "With the slide", hint: "Words come and go with their slide" },
  { value: "half-beat", label: "½ beat" },
  { value: "beat", label: "1 beat" },
  { value: "two-beats", label: "2 beats" },
  { value: "four-beats", label: "4 beats" },
];

/** How words are written. */
export function LettersPanel({ part }: { part: StylePart<Letters> }): ReactNode {
  const { value, set, slide } = part;
  const fade = (Object.keys(FADES) as FadeName[]).find(
    (name) => JSON.stringify(FADES[name]) === JSON.stringify(value.fade),
  );
  return (
    <StylePanel title="Letters" part={part}>
      <TitleSetField
        label="Title set"
        value={value.titleSet}
        letters={value}
        none="One font"
        onChange={(titleSet) => set({ ...value, titleSet })}
      />
      {value.titleSet === null && <FontFields value={value} set={set} slide={slide} />}
      <h3 className={SMALL}>Colour</h3>
      <ColourField
        label="Colour of the letters"
        value={value.colour}
        onChange={(colour) => slide({ ...value, colour })}
      />
      <div className="mt-3">
        <ShareSlider label="Shadow" value={value.shadow} onChange={(shadow) => slide({ ...value, shadow })} />
      </div>
      <OutlineSwitch value={value} set={set} slide={slide} />
      <BackingSwitch value={value} set={set} slide={slide} />
      <h3 className={SMALL}>Come and go on the beat, within</h3>
      <Choice
        label="Fade of the words"
        value={fade ?? "beat"}
        options={FADE_NAMES}
        onChange={(next) => set({ ...value, fade: FADES[next] })}
      />
      <h3 className={SMALL}>Appear</h3>
      <Choice
        label="How words appear"
        value={value.entrance}
        options={ENTRANCES.map((entrance) => ({ value: entrance, label: ENTRANCE_NAMES[entrance] }))}
        onChange={(entrance) => set({ ...value, entrance })}
      />
    </StylePanel>
  );
}

interface BackingSwitchProps {
  value: Letters;
  set: (value: Letters) => void;
  slide: (value: Letters) => void;
}

/** A soft field behind the words. */
function BackingSwitch({ value, set, slide }: BackingSwitchProps): ReactNode {
  return (
    <Switch
      label="Soft background behind the words"
      on={value.backing !== null}
      onChange={(on) => set({ ...value, backing: on ? { colour: "#0d1f26", strength: 0.6 } : null })}
    >
      {value.backing && (
        <>
          <ColourField
            label="Colour of the background"
            value={value.backing.colour}
            onChange={(colour) => slide({ ...value, backing: { ...present(value.backing), colour } })}
          />
          <div className="mt-2">
            <ShareSlider
              label="Strength of the ground"
              value={value.backing.strength}
              min={0.05}
              step={0.01}
              onChange={(strength) => slide({ ...value, backing: { ...present(value.backing), strength } })}
            />
          </div>
        </>
      )}
    </Switch>
  );
}

interface OutlineSwitchProps {
  value: Letters;
  set: (value: Letters) => void;
  slide: (value: Letters) => void;
}

/** An outline around the letters. */
function OutlineSwitch({ value, set, slide }: OutlineSwitchProps): ReactNode {
  return (
    <Switch
      label="Outline"
      on={value.outline !== null}
      onChange={(on) => set({ ...value, outline: on ? { width: 0.4, colour: "#0d1f26" } : null })}
    >
      {value.outline && (
        <>
          <ColourField
            label="Colour of the outline"
            value={value.outline.colour}
            onChange={(colour) => slide({ ...value, outline: { ...present(value.outline), colour } })}
          />
          <div className="mt-2">
            <ShareSlider
              label="Width of the outline"
              value={value.outline.width}
              min={0.05}
              onChange={(width) => slide({ ...value, outline: { ...present(value.outline), width } })}
            />
          </div>
        </>
      )}
    </Switch>
  );
}

interface FontFieldsProps {
  value: Letters;
  set: (value: Letters) => void;
  slide: (value: Letters) => void;
}

/** One font for all words: which, how heavy, upright or not, and how far apart its letters are. */
function FontFields({ value, set, slide }: FontFieldsProps): ReactNode {
  return (
    <div className="mt-3 flex flex-col gap-2">
      <select
        aria-label="Font"
        value={value.font}
        className={SELECT}
        onChange={(event) => set({ ...value, font: event.target.value as FilmFont })}
      >
        {FILM_FONTS.map((font) => (
          <option key={font} value={font}>
            {font}
          </option>
        ))}
      </select>
      <Choice
        label="Weight"
        value={String(value.weight)}
        options={[
          { value: "400", label: "Regular" },
          { value: "700", label: "Bold" },
        ]}
        onChange={(next) => set({ ...value, weight: next === "700" ? 700 : 400 })}
      />
      <label className="flex items-center gap-2 text-[13px] text-soft">
        <input
          type="checkbox"
          checked={value.italic}
          onChange={({ target }) => set({ ...value, italic: target.checked })}
        />
        Italic, where the font has it
      </label>
      <Choice
        label="Capitals"
        value={value.capitals}
        options={CAPITALS_NAMES}
        onChange={(capitals) => set({ ...value, capitals })}
      />
      <ShareSlider
        label="Room between letters"
        value={value.spacing}
        min={-0.05}
        max={0.5}
        step={0.01}
        onChange={(spacing) => slide({ ...value, spacing })}
      />
    </div>
  );
}

function Switch({
  label,
  on,
  onChange,
  children,
}: {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
  children: ReactNode;
}): ReactNode {
  return (
    <div className="mt-2">
      <label className="flex items-center gap-2 text-[13px] text-soft">
        <input type="checkbox" checked={on} onChange={(event) => onChange(event.target.checked)} />
        {label}
      </label>
      {children && <div className="mt-1.5 mb-3 pl-6">{children}</div>}
    </div>
  );
}

/** Whether and where captions of slides are seen. */
export function CaptionsPanel({ part }: { part: StylePart<CaptionStyle> }): ReactNode {
  const { value, set, slide } = part;
  return (
    <StylePanel title="Captions" part={part}>
      <label className="flex items-center gap-2 text-[13px] text-soft">
        <input
          type="checkbox"
          checked={value.shown}
          onChange={(event) => set({ ...value, shown: event.target.checked })}
        />
        Show the captions of slides
      </label>
      {value.shown && (
        <div className="mt-3 flex items-center gap-4">
          <PlaceField label="Place of captions" value={value.place} onChange={(place) => set({ ...value, place })} />
          <div className="flex-1">
            <ShareSlider
              label="Size"
              value={value.size}
              min={0.4}
              max={2.5}
              onChange={(size) => slide({ ...value, size })}
            />
          </div>
        </div>
      )}
    </StylePanel>
  );
}

import { newTransition } from "@humming-tide/core/picture";
import {
  PUSH_DIRECTIONS,
  type TransitionWish,
  TURN_DIRECTIONS,
  VARIED_KINDS,
  WIPE_DIRECTIONS,
} from "@humming-tide/core/show";
import type { FilmLength } from "@humming-tide/core/values";
import type { ReactNode } from "react";
import { DISSOLVE_SECONDS } from "../../style/dissolve-lengths.ts";
import type { StylePart } from "../../style/style-part.ts";
import { TRANSITION_NAMES } from "../../style/style-words.ts";
import { Choice } from "../../ui/Choice.tsx";
import { ColourField } from "../../ui/ColourField.tsx";
import { Slider } from "../../ui/Slider.tsx";
import { DirectionField } from "./DirectionField.tsx";
import { StylePanel } from "./StylePanel.tsx";

const KINDS = (Object.keys(TRANSITION_NAMES) as TransitionWish["kind"][]).map((value) => ({
  value,
  label: TRANSITION_NAMES[value],
}));
const BEATS = [0.5, 1, 2, 4] as const;
const FIRST_LENGTH: FilmLength = { unit: "seconds", count: 0.8 };

/** What leads into slides: the kind, how long, and what the kind asks for. */
export function TransitionPanel({ part }: { part: StylePart<TransitionWish> }): ReactNode {
  const { value, set, slide } = part;
  const length = value.kind === "cut" ? FIRST_LENGTH : value.length;
  return (
    <StylePanel title="Transition" part={part}>
      <Choice
        label="Kind of transition"
        value={value.kind}
        options={KINDS}
        onChange={(kind) => set(newTransition(kind, length))}
      />
      {value.kind !== "cut" && <LengthField value={value} set={set} />}
      <KindFields value={value} set={set} slide={slide} />
    </StylePanel>
  );
}

type Long = Exclude<TransitionWish, { kind: "cut" }>;
interface FieldsProps<Wish> {
  value: Wish;
  set: (value: TransitionWish) => void;
}

const SMALL = "mt-3 mb-1 font-sans text-[13px] text-quiet";

function LengthField({ value, set }: FieldsProps<Long>): ReactNode {
  const { unit, count } = value.length;
  const offered = unit === "seconds" ? DISSOLVE_SECONDS : BEATS;
  return (
    <>
      <div className="mt-3 flex items-center justify-between">
        <h3 className="font-sans text-[13px] text-quiet">Length</h3>
        <Choice
          label="Unit of the length"
          value={unit}
          options={[
            { value: "seconds", label: "Seconds" },
            { value: "beats", label: "Beats" },
          ]}
          onChange={(next) => set({ ...value, length: { unit: next, count: next === "beats" ? 1 : 0.8 } })}
        />
      </div>
      <Choice
        label="Length of the transition"
        value={String(count)}
        options={offered.map((each) => ({
          value: String(each),
          label: unit === "seconds" ? `${each} s` : `${each}`,
        }))}
        onChange={(next) => set({ ...value, length: { unit, count: Number(next) } })}
      />
    </>
  );
}

function KindFields({
  value,
  set,
  slide,
}: FieldsProps<TransitionWish> & Pick<StylePart<TransitionWish>, "slide">): ReactNode {
  switch (value.kind) {
    case "dip":
      return (
        <>
          <h3 className={SMALL}>Through</h3>
          <ColourField
            label="Colour of the dip"
            value={value.colour}
            onChange={(colour) => slide({ ...value, colour })}
          />
        </>
      );
    case "wipe":
      return (
        <>
          <DirectionField
            title="The edge goes"
            label="Direction of the wipe"
            value={value.direction}
            offered={WIPE_DIRECTIONS}
            onChange={(direction) => set({ ...value, direction })}
          />
          <div className="mt-3">
            <Slider
              label="Softness of the edge"
              text={`${Math.round(100 * value.softness)} %`}
              value={value.softness}
              min={0}
              max={1}
              step={0.02}
              onChange={(softness) => slide({ ...value, softness })}
            />
          </div>
        </>
      );
    case "gradient":
      return (
        <DirectionField
          title="The light comes"
          label="Direction of the gradient"
          value={value.direction}
          offered={WIPE_DIRECTIONS}
          onChange={(direction) => set({ ...value, direction })}
        />
      );
    case "push":
      return (
        <DirectionField
          title="Pictures go"
          label="Direction of the push"
          value={value.direction}
          offered={PUSH_DIRECTIONS}
          onChange={(direction) => set({ ...value, direction })}
        />
      );
    case "page-turn":
      return (
        <DirectionField
          title="The page goes"
          label="Direction of the page turn"
          value={value.direction}
          offered={TURN_DIRECTIONS}
          onChange={(direction) => set({ ...value, direction })}
        />
      );
    case "vary":
      return <VariedField value={value} set={set} />;
    case "cut":
    case "dissolve":
    case "iris":
    case "zoom":
    case "light-flash":
      return null;
  }
}

/** The set that is drawn from; the last one stays. */
function VariedField({ value, set }: FieldsProps<Extract<TransitionWish, { kind: "vary" }>>): ReactNode {
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 text-[13px] text-quiet">Picks from these, never the same twice in a row</legend>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1">
        {VARIED_KINDS.map((kind) => {
          const isIn = value.kinds.includes(kind);
          return (
            <label key={kind} className="flex items-center gap-2 text-[13px] text-soft">
              <input
                type="checkbox"
                checked={isIn}
                disabled={isIn && value.kinds.length === 1}
                onChange={() =>
                  set({
                    ...value,
                    kinds: VARIED_KINDS.filter((each) => (each === kind ? !isIn : value.kinds.includes(each))),
                  })
                }
              />
              {TRANSITION_NAMES[kind]}
            </label>
          );
        })}
      </div>
    </fieldset>
  );
}

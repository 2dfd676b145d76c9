import {
  ArrowDown,
  ArrowDownLeft,
  ArrowDownRight,
  ArrowLeft,
  ArrowRight,
  ArrowUp,
  ArrowUpLeft,
  ArrowUpRight,
  type LucideIcon,
} from "lucide-react";
import { RadioGroup } from "radix-ui";
import type { ReactNode } from "react";

type Direction = "right" | "left" | "down" | "up" | "down-right" | "down-left" | "up-right" | "up-left";

const SIGNS: Readonly<Record<Direction, LucideIcon>> = {
  right: ArrowRight,
  left: ArrowLeft,
  down: ArrowDown,
  up: ArrowUp,
  "down-right": ArrowDownRight,
  "down-left": ArrowDownLeft,
  "up-right": ArrowUpRight,
  "up-left": ArrowUpLeft,
};

/** One of a few directions under its heading, as arrows that are read out in words. */
export function DirectionField<Offered extends Direction>({
  title,
  label,
  value,
  offered,
  onChange,
}: {
  title: string;
  label: string;
  value: Offered;
  offered: readonly Offered[];
  onChange: (direction: Offered) => void;
}): ReactNode {
  return (
    <>
      <h3 className="mt-3 mb-1 font-sans text-[13px] text-quiet">{title}</h3>
      <RadioGroup.Root
        aria-label={label}
        value={value}
        onValueChange={(next) => onChange(next as Offered)}
        className="flex flex-wrap gap-1"
      >
        {offered.map((direction) => {
          const Sign: LucideIcon = SIGNS[direction];
          const words = direction.replace("-", " and ");
          return (
            <RadioGroup.Item
              key={direction}
              value={direction}
              aria-label={words}
              title={words}
              className="inline-flex size-8 items-center justify-center rounded-md border border-transparent text-soft hover:bg-high hover:text-ink data-[state=checked]:border-line-strong data-[state=checked]:bg-high data-[state=checked]:text-ink"
            >
              <Sign size={16} aria-hidden />
            </RadioGroup.Item>
          );
        })}
      </RadioGroup.Root>
    </>
  );
}

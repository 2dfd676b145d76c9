import { RadioGroup } from "radix-ui";
import type { ReactNode } from "react";

interface ChoiceOption<Value extends string> {
  readonly value: Value;
  readonly label: string;
  readonly hint?: string;
}

interface ChoiceProps<Value extends string> {
  label: string;
  value: Value;
  options: readonly ChoiceOption<Value>[];
  onChange: (value: Value) => void;
}

/** One of a few, all in sight: framed words, the chosen one filled and read out as checked. */
export function Choice<Value extends string>({ label, value, options, onChange }: ChoiceProps<Value>): ReactNode {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      onValueChange={(next) => onChange(next as Value)}
      className="flex flex-wrap gap-x-1 gap-y-1"
    >
      {options.map((option) => (
        <RadioGroup.Item
          key={option.value}
          value={option.value}
          title={option.hint}
          className="rounded-md border border-line-strong/50 px-2.5 py-1 text-[13px] text-soft hover:border-line-strong hover:text-ink data-[state=checked]:border-ink data-[state=checked]:bg-high data-[state=checked]:font-semibold data-[state=checked]:text-ink"
        >
          {option.label}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}

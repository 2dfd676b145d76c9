import { type InputHTMLAttributes, type ReactNode, useId } from "react";

const BOX = "w-full rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink";

interface FieldProps extends InputHTMLAttributes<HTMLInputElement> {
  label: string;
  /** What to enter or what is wrong with it. */
  hint?: ReactNode;
}

/** A labelled text, date or number field. */
export function Field({ label, hint, className = "", ...rest }: FieldProps): ReactNode {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-[13px] text-soft">
        {label}
      </label>
      <input id={id} className={BOX} {...rest} />
      {hint && <p className="mt-1 text-xs text-quiet">{hint}</p>}
    </div>
  );
}

/** A short entry at the end of the line that names it. */
export function LineField({ label, className = "w-20", ...rest }: Omit<FieldProps, "hint">): ReactNode {
  return (
    <label className="flex items-center justify-between gap-3 text-[13px] text-quiet">
      {label}
      <input
        className={`rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-right text-ink ${className}`}
        {...rest}
      />
    </label>
  );
}

import type { ReactNode } from "react";

export function Panel({
  title,
  children,
  aside,
}: {
  title: string;
  children: ReactNode;
  aside?: ReactNode;
}): ReactNode {
  return (
    <section aria-label={title} className="border-t border-line px-4 py-3 first:border-t-0">
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h2 className="text-[15px] text-ink">{title}</h2>
        {aside}
      </div>
      {children}
    </section>
  );
}

/** A label and its value on one line. */
export function Fact({ label, children }: { label: ReactNode; children: ReactNode }): ReactNode {
  return (
    <div className="flex justify-between gap-3 py-0.5 text-[13px]">
      <dt className="shrink-0 text-quiet">{label}</dt>
      <dd className="text-right text-ink">{children}</dd>
    </div>
  );
}

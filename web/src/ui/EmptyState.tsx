import type { ReactNode } from "react";

/** A place that has nothing yet: what will be here, and the next useful action. */
export function EmptyState({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}): ReactNode {
  return (
    <div className="mx-auto flex max-w-md flex-col items-center gap-3 py-20 text-center">
      <svg viewBox="0 0 160 40" className="w-40 text-line-strong" aria-hidden>
        <path
          d="M4 26c13-16 25-16 38 0s25 16 38 0 25-16 38 0 25 16 38 0"
          fill="none"
          stroke="currentColor"
          strokeWidth="2.5"
          strokeLinecap="round"
        />
      </svg>
      <h2 className="text-2xl">{title}</h2>
      <p className="text-soft">{children}</p>
      {action}
    </div>
  );
}

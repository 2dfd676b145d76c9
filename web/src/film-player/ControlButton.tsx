import type { ReactNode } from "react";

/** A round button over or under a film. */
export function ControlButton({
  label,
  onPress,
  children,
}: {
  label: string;
  onPress: () => void;
  children: ReactNode;
}): ReactNode {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={onPress}
      className="flex size-11 items-center justify-center rounded-full hover:bg-white/15"
    >
      {children}
    </button>
  );
}

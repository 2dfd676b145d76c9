import { useState } from "react";

interface TypedText {
  readonly text: string;
  readonly type: (text: string) => void;
  /** To be called when the field is left. */
  readonly commit: () => void;
}

/**
 * The text of a field that is saved when it is left. What is being typed stays, also when the value
 * changes elsewhere meanwhile.
 */
export function useTypedText(value: string, onCommit: (text: string) => void): TypedText {
  const [typed, setTyped] = useState<string | null>(null);
  return {
    text: typed ?? value,
    type: setTyped,
    commit: () => {
      if (typed !== null && typed !== value) onCommit(typed);
      setTyped(null);
    },
  };
}

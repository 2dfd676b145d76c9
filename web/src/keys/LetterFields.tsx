import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { assignLetter, LETTER_NAMES, LETTERS, type LetterName, resetLetters, useLetters } from "./letters.ts";

/** One field a letter: typing another letter into it gives it to the command. */
export function LetterFields(): ReactNode {
  const letters = useLetters();
  const [refusal, setRefusal] = useState<string | null>(null);
  const change = (name: LetterName, typed: string): void => {
    const letter = typed.at(-1) ?? "";
    // The same letter once more, or none, changes nothing.
    if (letter === "" || letter.toLowerCase() === letters[name]) return setRefusal(null);
    const holder = assignLetter(name, letter);
    if (holder === null) setRefusal(null);
    else if (holder === name) setRefusal("Type a letter, a digit or a sign.");
    else setRefusal(`${letter.toUpperCase()} is for “${LETTERS[holder].does}”. Give that another letter first.`);
  };
  return (
    <>
      <p className="mb-2 text-[13px] text-soft">Choose a letter and type another one in its place.</p>
      <p aria-live="polite" className="min-h-6 text-[13px] text-warning">
        {refusal}
      </p>
      <ul className="mb-4 grid grid-cols-2 gap-x-6 text-[13px]">
        {LETTER_NAMES.map((name) => (
          <li key={name} className="flex items-center gap-3 border-t border-line py-1">
            <input
              aria-label={`Letter for: ${LETTERS[name].does}`}
              value={letters[name].toUpperCase()}
              onFocus={(event) => event.currentTarget.select()}
              onChange={(event) => change(name, event.target.value)}
              className="w-10 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-center font-semibold"
            />
            <span className="text-soft">{LETTERS[name].does}</span>
          </li>
        ))}
      </ul>
      <Button
        onClick={() => {
          resetLetters();
          setRefusal(null);
        }}
      >
        Back to the usual letters
      </Button>
    </>
  );
}

import { useSyncExternalStore } from "react";

/**
 * What single letters do, with the letter that each has until a person gives it another one. The
 * handlers and the sheet of keys read this table.
 */
export const LETTERS = {
  fullScreen: { usual: "f", does: "Stage on the full screen" },
  lock: { usual: "l", does: "Lock or unlock landings" },
  fitAgain: { usual: "g", does: "Fit again" },
  keep: { usual: "k", does: "Keep" },
  maybe: { usual: "b", does: "Maybe" },
  out: { usual: "n", does: "Leave out" },
  hero: { usual: "h", does: "Hero, or no hero" },
  passage: { usual: "p", does: "Begin a passage" },
  turn: { usual: "r", does: "Turn to the right; with Shift to the left" },
  compare: { usual: "c", does: "Compare with its neighbours" },
  choose: { usual: "e", does: "Choose this one of those that are alike" },
  safeAreas: { usual: "s", does: "Safe areas on the stage" },
  contactSheet: { usual: "v", does: "Contact sheet of the passage" },
  doubt: { usual: "d", does: "Hear the next doubtful stretch" },
  tap: { usual: "t", does: "Tap a beat" },
  marker: { usual: "m", does: "Put a marker at the playhead" },
  sheet: { usual: "?", does: "The list of keys" },
} as const satisfies Readonly<Record<string, { readonly usual: string; readonly does: string }>>;
export type LetterName = keyof typeof LETTERS;
export const LETTER_NAMES = Object.keys(LETTERS) as LetterName[];

type Assigned = Readonly<Record<LetterName, string>>;

/** Single letters can be switched off, and changed (WCAG 2.1.4). */
const SWITCH = "humming-tide letter-keys";
const CHANGED = "humming-tide letters";

export const letterKeysOn = (): boolean => localStorage.getItem(SWITCH) !== "off";
export const setLetterKeys = (on: boolean): void => localStorage.setItem(SWITCH, on ? "on" : "off");

const usual = (): Record<LetterName, string> =>
  Object.fromEntries(LETTER_NAMES.map((name) => [name, LETTERS[name].usual])) as Record<LetterName, string>;

/** A letter, digit or sign that a key can have; space and keys with names are not. */
const isLetter = (text: unknown): text is string => typeof text === "string" && /^[^\s\p{C}]$/u.test(text);

/** What is kept in the browser; whatever of it is no letter, or there twice, is as usual. */
export function assignedBy(stored: string | null): Assigned {
  const assigned = usual();
  let changes: unknown;
  try {
    changes = JSON.parse(stored ?? "{}");
  } catch {
    return assigned;
  }
  if (typeof changes !== "object" || changes === null) return assigned;
  for (const [name, letter] of Object.entries(changes))
    if (Object.hasOwn(assigned, name) && isLetter(letter)) assigned[name as LetterName] = letter.toLowerCase();
  return new Set(Object.values(assigned)).size === LETTER_NAMES.length ? assigned : usual();
}

let assigned: Assigned | null = null;
const listeners = new Set<() => void>();

/** Another window may have changed them. */
if (typeof window !== "undefined")
  window.addEventListener("storage", ({ key }) => {
    if (key === CHANGED || key === null) forget();
  });

function forget(): void {
  assigned = null;
  for (const tell of listeners) tell();
}

const assignedNow = (): Assigned => {
  assigned ??= assignedBy(localStorage.getItem(CHANGED));
  return assigned;
};

/** What a key press means; null for other keys, with Ctrl or Alt, and where letters are off. */
export function letterOf(event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey">): LetterName | null {
  if (event.ctrlKey || event.metaKey || event.altKey || !letterKeysOn()) return null;
  const key = event.key.toLowerCase();
  const now = assignedNow();
  return LETTER_NAMES.find((name) => now[name] === key) ?? null;
}

/**
 * Gives a command another letter. Returns the one that has it already, which then keeps it; null
 * where it was given.
 */
export function assignLetter(name: LetterName, letter: string): LetterName | null {
  const wanted = letter.toLowerCase();
  if (!isLetter(wanted)) return name;
  const now = assignedNow();
  const other = LETTER_NAMES.find((known) => known !== name && now[known] === wanted);
  if (other) return other;
  const changed = LETTER_NAMES.map((known) => [known, known === name ? wanted : now[known]] as const);
  const kept = Object.fromEntries(changed.filter(([known, own]) => own !== LETTERS[known].usual));
  localStorage.setItem(CHANGED, JSON.stringify(kept));
  forget();
  return null;
}

/** All letters as they are until a person changes them. */
export function resetLetters(): void {
  localStorage.removeItem(CHANGED);
  forget();
}

/** All letters as they are now; the page follows when one is changed. */
export function useLetters(): Assigned {
  return useSyncExternalStore((tell) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  }, assignedNow);
}

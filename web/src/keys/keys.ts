/** All shortcuts of our own, in one place: the sheet on "?" is made from this list, so it is always true. */
export interface Shortcut {
  readonly keys: string;
  readonly does: string;
  readonly where: string;
}

export const SHORTCUTS: readonly Shortcut[] = [
  { keys: "Space", does: "Play or stop", where: "Everywhere" },
  { keys: "Left / Right", does: "A frame back or on", where: "Everywhere" },
  { keys: "Shift + Left / Right", does: "A beat back or on", where: "Everywhere" },
  { keys: "Up / Down", does: "A row of the Score up or down", where: "Score" },
  { keys: "Ctrl + Z", does: "Undo", where: "Everywhere" },
  { keys: "Ctrl + Shift + Z", does: "Redo", where: "Everywhere" },
  { keys: "L", does: "Lock or unlock the selected slide's landing", where: "Score" },
  { keys: "Left / Right on a landing", does: "Move it from beat to beat", where: "Score" },
  { keys: "Space, arrows, Space on a picture", does: "Lift it, move it, put it down", where: "Gather" },
  { keys: "Delete", does: "Take the picture out of the show", where: "Gather" },
  { keys: "?", does: "This list", where: "Everywhere" },
];

/** Single letters can be switched off (WCAG 2.1.4). */
const SWITCH = "humming-tide letter-keys";

export const letterKeysOn = (): boolean => localStorage.getItem(SWITCH) !== "off";
export const setLetterKeys = (on: boolean): void => localStorage.setItem(SWITCH, on ? "on" : "off");

/** Whether a key press is meant for something else: a field being typed in, or a control that uses the key itself. */
export function isForControl(event: KeyboardEvent): boolean {
  if (event.defaultPrevented) return true;
  const target = event.target as HTMLElement | null;
  if (!target) return false;
  if (target.closest("input:not([type=range]), textarea, select, [contenteditable=true], [role=dialog]")) return true;
  if (event.key === " ") {
    // Slides and landings are chosen with Enter; on them, as everywhere in the Score, Space plays.
    return (
      target.closest("[data-space-plays]") === null && target.closest("button, a, [role=button], [role=radio]") !== null
    );
  }
  return (
    target.closest("input[type=range], [role=radiogroup], [role=slider], [role=menu], [data-sortable]") !== null &&
    event.key.startsWith("Arrow")
  );
}

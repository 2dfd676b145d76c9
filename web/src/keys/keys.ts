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
  { keys: "D", does: "Hear the next doubtful stretch", where: "Listen" },
  { keys: "K / B / N", does: "Keep, maybe, leave out; the next picture comes by itself", where: "Gather" },
  { keys: "H", does: "Hero, or no hero", where: "Gather" },
  { keys: "R / Shift + R", does: "Turn to the right or left", where: "Gather" },
  { keys: "P", does: "Begin a passage at this picture", where: "Gather" },
  { keys: "Enter", does: "A large look at the picture", where: "Gather" },
  { keys: "C", does: "Compare with its neighbours", where: "Large look" },
  { keys: "Arrows, Shift + arrows", does: "Select a picture, a range", where: "Gather" },
  { keys: "Ctrl + arrows, Ctrl + Space", does: "Go without selecting, add to the selection", where: "Gather" },
  { keys: "Ctrl + A / Escape", does: "Select all, none", where: "Gather" },
  { keys: "Alt + arrows", does: "Move what is selected through the film", where: "Gather" },
  { keys: "Delete", does: "Take what is selected out of the show", where: "Gather" },
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

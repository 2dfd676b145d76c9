import type { LetterName } from "./letters.ts";

/**
 * All shortcuts of our own, in one place: the sheet of keys is made from this list. Single letters
 * are named by what they do, because each can be changed (letters.ts).
 */
export interface Shortcut {
  readonly keys: string | readonly LetterName[];
  readonly does: string;
  readonly where: string;
}

export const SHORTCUTS: readonly Shortcut[] = [
  { keys: "Space", does: "Play or stop", where: "Everywhere" },
  { keys: "Left / Right", does: "A frame back or on", where: "Everywhere" },
  { keys: "Shift + Left / Right", does: "A beat back or on", where: "Everywhere" },
  { keys: "Ctrl + Z", does: "Undo", where: "Everywhere" },
  { keys: "Ctrl + Shift + Z", does: "Redo", where: "Everywhere" },
  { keys: ["fullScreen"], does: "Stage on the full screen", where: "Score, Dress" },
  { keys: "Up / Down", does: "A row up or down", where: "Score" },
  { keys: "Ctrl + Left / Right", does: "Select the picture before or behind; with Shift a range", where: "Score" },
  { keys: "Ctrl + A / Escape", does: "Select all, none", where: "Score" },
  { keys: "Alt + Left / Right", does: "Move what is selected through the film", where: "Score" },
  { keys: ["lock"], does: "Lock or unlock where the selected pictures land", where: "Score" },
  { keys: ["fitAgain"], does: "Fit all again, or what is selected without its locks", where: "Score" },
  {
    keys: ["keep", "maybe", "out", "hero", "passage"],
    does: "Keep, maybe, leave out, hero, begin a passage",
    where: "Score",
  },
  { keys: "Enter", does: "Open what is selected in Dress", where: "Score" },
  { keys: "Delete", does: "Take what is selected out of the show", where: "Score" },
  {
    keys: "Left / Right on a landing",
    does: "Move it from beat to beat; with Alt from frame to frame",
    where: "Score",
  },
  { keys: "Left / Right on a passage's name", does: "Begin it a picture earlier or later", where: "Score" },
  { keys: "Left / Right on a voice", does: "Move it by a tenth of a second; with Alt by a hundredth", where: "Score" },
  { keys: "Arrows on a point of the music's level", does: "Move it; Delete removes it", where: "Score" },
  { keys: "Enter in the tray", does: "Put the picture behind the selected one", where: "Score" },
  { keys: "Alt + Left / Right", does: "The slide before or behind", where: "Dress" },
  { keys: ["safeAreas"], does: "Safe areas on the stage", where: "Dress" },
  { keys: ["contactSheet"], does: "Contact sheet of the passage", where: "Dress" },
  { keys: "+ / − on the frame", does: "Make the picture larger or smaller", where: "Dress" },
  { keys: "Arrows on the subject or the frame", does: "Move it by a hundredth of the picture", where: "Dress" },
  { keys: ["doubt"], does: "Hear the next doubtful stretch, in a loop with the click", where: "Listen" },
  { keys: ["tap"], does: "Tap a beat while the song plays", where: "Listen" },
  { keys: ["marker"], does: "Put a marker at the playhead", where: "Listen" },
  { keys: "Delete on a marker", does: "Take it away", where: "Listen" },
  { keys: "+ / -", does: "Zoom, on the curve around the playhead", where: "Listen" },
  { keys: ["keep", "maybe", "out"], does: "Keep, maybe, leave out; the next picture comes by itself", where: "Gather" },
  { keys: ["hero"], does: "Hero, or no hero", where: "Gather" },
  { keys: ["turn"], does: "Turn to the right; with Shift to the left", where: "Gather" },
  { keys: ["passage"], does: "Begin a passage at this picture", where: "Gather" },
  { keys: "Enter", does: "A large look at the picture", where: "Gather" },
  { keys: ["compare"], does: "Compare with those that are alike", where: "Gather" },
  { keys: ["choose"], does: "Keep this one, leave out those that are alike", where: "Gather, large look" },
  { keys: ["compare"], does: "Compare with its neighbours", where: "Large look" },
  { keys: "Arrows, Shift + arrows", does: "Select a picture, a range", where: "Gather" },
  { keys: "Ctrl + arrows, Ctrl + Space", does: "Go without selecting, add to the selection", where: "Gather" },
  { keys: "Ctrl + A / Escape", does: "Select all, none", where: "Gather" },
  { keys: "Alt + arrows", does: "Move what is selected through the film", where: "Gather" },
  { keys: "Delete", does: "Take what is selected out of the show", where: "Gather" },
  { keys: ["sheet"], does: "This list", where: "Everywhere" },
];

/** Whether a key press happens where keys are text or belong to what lies over the page. */
export function isInField(event: KeyboardEvent): boolean {
  const fields = "input:not([type=range], [type=checkbox]), textarea, select, [contenteditable=true]";
  const target = event.target as HTMLElement | null;
  return !!target?.closest(`${fields}, [role=dialog], [role=menu]`);
}

/** What has the focus got it from the pointer, not by Tab. */
let isFocusFromPointer = false;

/**
 * Learns from presses and keys how the focus came where it is. Returns the function that ends it.
 */
export function watchFocus(): () => void {
  const press = (): void => {
    isFocusFromPointer = true;
  };
  const key = (event: KeyboardEvent): void => {
    if (event.key === "Tab") isFocusFromPointer = false;
  };
  window.addEventListener("pointerdown", press, true);
  window.addEventListener("keydown", key, true);
  return () => {
    window.removeEventListener("pointerdown", press, true);
    window.removeEventListener("keydown", key, true);
  };
}

/**
 * Whether a key press is meant for something else: a field being typed in, or a control that uses
 * the key itself.
 */
export function isForControl(event: KeyboardEvent): boolean {
  if (event.defaultPrevented) return true;
  const target = event.target as HTMLElement | null;
  if (!target) return false;
  if (isInField(event)) return true;
  if (event.key === " ") {
    // Slides and landings are chosen with Enter; on them Space plays, as it does on links. A
    // control that was pressed with the pointer is done with; one that Tab has led to takes the
    // key.
    const takes = "button:not([data-space-plays]), input[type=checkbox], [role=button], [role=radio]";
    return !isFocusFromPointer && target.closest(takes) !== null;
  }
  return (
    target.closest("input[type=range], [role=radiogroup], [role=slider], [role=menu], [data-sortable]") !== null &&
    event.key.startsWith("Arrow")
  );
}

import { useEffect } from "react";

/**
 * A file that misses every target would open in place of the page, and take what is not saved with
 * it.
 */
export function useNoStrayDrops(): void {
  useEffect(() => {
    const refuse = (event: DragEvent): void => {
      if (event.defaultPrevented || !event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      event.dataTransfer.dropEffect = "none";
    };
    window.addEventListener("dragover", refuse);
    window.addEventListener("drop", refuse);
    return () => {
      window.removeEventListener("dragover", refuse);
      window.removeEventListener("drop", refuse);
    };
  }, []);
}

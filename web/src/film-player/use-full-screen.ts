import { useEffect, useState } from "react";

/** Whether something fills the screen. */
export function useFullScreen(): boolean {
  const [isFull, setFull] = useState(false);
  useEffect(() => {
    const changed = (): void => setFull(document.fullscreenElement !== null);
    document.addEventListener("fullscreenchange", changed);
    return () => document.removeEventListener("fullscreenchange", changed);
  }, []);
  return isFull;
}

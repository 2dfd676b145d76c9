import { useEffect, useState } from "react";

/** True when nobody has moved, touched or pressed anything for so long. */
export function useIdle(milliseconds: number): boolean {
  const [isIdle, setIdle] = useState(false);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const wake = (): void => {
      setIdle(false);
      clearTimeout(timer);
      timer = setTimeout(() => setIdle(true), milliseconds);
    };
    wake();
    const events = ["pointermove", "pointerdown", "keydown", "focusin"] as const;
    for (const event of events) window.addEventListener(event, wake);
    return () => {
      clearTimeout(timer);
      for (const event of events) window.removeEventListener(event, wake);
    };
  }, [milliseconds]);
  return isIdle;
}

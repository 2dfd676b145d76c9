import { useEffect, useState } from "react";

/** A number that rises with every change of theme: what is drawn on canvases depends on it. */
export function useThemeChange(): number {
  const [count, setCount] = useState(0);
  useEffect(() => {
    const again = (): void => setCount((before) => before + 1);
    window.addEventListener("themechange", again);
    return () => window.removeEventListener("themechange", again);
  }, []);
  return count;
}

/** What `make` makes of the theme's colours: made again when the page takes the other theme. */
export function useThemed<Made>(make: () => Made): Made {
  const [made, setMade] = useState(make);
  useEffect(() => {
    const again = (): void => setMade(() => make());
    window.addEventListener("themechange", again);
    return () => window.removeEventListener("themechange", again);
  }, [make]);
  return made;
}

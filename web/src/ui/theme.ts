export type Theme = "dusk" | "paper";

const KEY = "humming-tide theme";

export const storedTheme = (): Theme => (localStorage.getItem(KEY) === "paper" ? "paper" : "dusk");

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset["theme"] = theme;
  localStorage.setItem(KEY, theme);
  // Canvases read their colours when they draw.
  window.dispatchEvent(new Event("themechange"));
}

/** A colour of the current theme, by the name of its variable in theme.css. */
export const themeColour = (
  name:
    | "foam"
    | "lantern"
    | "heather"
    | "ink"
    | "ink-soft"
    | "ink-quiet"
    | "warning"
    | "line"
    | "line-strong"
    | "ground"
    | "ground-high",
): string => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

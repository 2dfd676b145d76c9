export type Theme = "dusk" | "paper";

const KEY = "humming-tide theme";

export const storedTheme = (): Theme => (localStorage.getItem(KEY) === "paper" ? "paper" : "dusk");

/** What has been asked for of the present theme. */
const colours = new Map<ColourName, string>();

export function applyTheme(theme: Theme): void {
  colours.clear();
  document.documentElement.dataset["theme"] = theme;
  localStorage.setItem(KEY, theme);
  // Canvases read their colours when they draw.
  window.dispatchEvent(new Event("themechange"));
}

type ColourName =
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
  | "ground-raised"
  | "ground-high";

/**
 * A colour of the current theme, by the name of its variable in theme.css. Kept until the theme
 * changes: what is drawn on every picture of the screen must not make the browser work out its
 * styles each time.
 */
export function themeColour(name: ColourName): string {
  const known = colours.get(name);
  if (known !== undefined) return known;
  const colour = getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
  colours.set(name, colour);
  return colour;
}

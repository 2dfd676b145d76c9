/** What file managers and archives leave beside pictures. Common practice; case does not count. */
const LEFT_BY_SYSTEMS = new Set([
  ...["thumbs.db", "ehthumbs.db", "ehthumbs_vista.db", "desktop.ini"],
  ...["__macosx", "@eadir", "$recycle.bin", "system volume information", "icon\r"],
]);

/**
 * Whether a file is no business of the person who brings in its folder: hidden, or left there by a
 * system, or inside such a folder. It is passed over without a word.
 *
 * @param path With "/" between folders.
 */
export const isSystemFile = (path: string): boolean =>
  path.split("/").some((part) => part.startsWith(".") || LEFT_BY_SYSTEMS.has(part.toLowerCase()));

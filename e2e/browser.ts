import { existsSync } from "node:fs";
import { itemAt } from "@humming-tide/core/presence";

/**
 * Chromium without its own windows needs a fifth less time for the tests than the whole browser.
 */
const BROWSERS = ["/usr/bin/chromium-headless-shell", "/usr/bin/chromium"];

/**
 * The browser that is driven: the one that `CHROMIUM` names, or the first of Debian's that is
 * there.
 */
export const BROWSER = process.env["CHROMIUM"] || (BROWSERS.find((place) => existsSync(place)) ?? itemAt(BROWSERS, 0));

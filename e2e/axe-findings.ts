import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type { Page } from "@playwright/test";
import type { AxeResults } from "axe-core";

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

/**
 * What axe-core, a program of others, finds on a page, one line each: the rule, how grave it is,
 * and the first places.
 */
export async function findings(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  const { violations } = await page.evaluate(() =>
    (window as unknown as { axe: { run: (options: object) => Promise<AxeResults> } }).axe.run({
      resultTypes: ["violations"],
      rules: { "target-size": { enabled: true } },
    }),
  );
  return violations.map(
    ({ id, impact, nodes }) =>
      `${id} (${impact}): ${nodes.length} places, ${nodes
        .slice(0, 3)
        .map(({ target, html }) => `${target.join(" ")} ${html.slice(0, 160)}`)
        .join(" | ")}`,
  );
}

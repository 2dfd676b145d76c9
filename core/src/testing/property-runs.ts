const { process } = globalThis as { process?: { env: Record<string, string | undefined> } };

/** How often a seeded property is tried: 500 times in `npm test`, 10,000 in `npm run test:long`. */
export const propertyRuns = process?.env["HUMMING_TIDE_LONG"] ? 10_000 : 500;

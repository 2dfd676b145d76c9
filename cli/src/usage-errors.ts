import { BAD, errorsOf } from "@humming-tide/core/errors";

/** Wrong arguments: one clear line, exit code 2. */
export const usageError = errorsOf({
  "usage-unreadable": { meaning: BAD, text: ({ why }: { why: string }) => why },
  "usage-files": {
    meaning: BAD,
    text: ({ command, wanted, given }: { command: string; wanted: string; given: number }) =>
      `${command} takes ${wanted}, but ${given === 0 ? "none" : given} ${given === 1 ? "was" : "were"} given.`,
  },
  "usage-option-missing": {
    meaning: BAD,
    text: ({ option, wanted }: { option: string; wanted?: string }) =>
      `--${option} is missing${wanted === undefined ? "" : `: ${wanted}`}.`,
  },
  "usage-option-repeated": {
    meaning: BAD,
    text: ({ option, times }: { option: string; times: number }) =>
      `--${option} is given ${times} times, but once is enough.`,
  },
  "usage-option-empty": { meaning: BAD, text: ({ option }: { option: string }) => `--${option} needs a value.` },
  "usage-option-value": {
    meaning: BAD,
    text: ({ option, wanted, given }: { option: string; wanted: string; given: string }) =>
      `--${option} is ${wanted}, but this is "${given}".`,
  },
  "usage-options-either": {
    meaning: BAD,
    text: ({ command, options }: { command: string; options: readonly [string, string] }) =>
      `${command} takes either --${options[0]} or --${options[1]}.`,
  },
});

export const isUsageError = (code: string): boolean => code.startsWith("usage-");

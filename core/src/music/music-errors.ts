import { errorsOf, OURS } from "../errors/index.ts";

export const musicError = errorsOf({
  "beat-network-damaged": {
    meaning: OURS,
    text: ({ why }: { why: string }) =>
      `The file of the beat network cannot be used: ${why}. Install Humming Tide again.`,
  },
});

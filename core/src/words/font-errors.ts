import { errorsOf, OURS } from "../errors/index.ts";

export const fontError = errorsOf({
  "font-damaged": {
    meaning: OURS,
    text: ({ why }: { why: string }) => `A font file of this program is damaged: ${why}. Install it again.`,
  },
  "font-missing": {
    meaning: OURS,
    text: ({ name }: { name: string }) => `The font file ${name} of this program is missing. Install it again.`,
  },
});

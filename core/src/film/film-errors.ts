import { BAD, errorsOf } from "../errors/index.ts";

export const filmError = errorsOf({
  "missing-picture": {
    meaning: BAD,
    text: ({ picture }: { picture: string }) =>
      `The picture "${picture}" of this show is missing from the data folder. Bring it in again.`,
  },
});

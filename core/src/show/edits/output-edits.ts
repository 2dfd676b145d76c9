import type { FilmOutput, ShowDocument } from "../document/index.ts";

/** Puts an output behind the others. */
export const addOutput = (show: ShowDocument, output: FilmOutput): ShowDocument => ({
  ...show,
  outputs: [...show.outputs, output],
});

/** Changes an output; one that is not there changes nothing. */
export const changeOutput = (
  show: ShowDocument,
  outputId: string,
  change: Partial<Omit<FilmOutput, "id">>,
): ShowDocument => ({
  ...show,
  outputs: show.outputs.map((output) => (output.id === outputId ? { ...output, ...change } : output)),
});

/** Takes an output out of the show; one that is not there changes nothing. */
export const removeOutput = (show: ShowDocument, outputId: string): ShowDocument => ({
  ...show,
  outputs: show.outputs.filter(({ id }) => id !== outputId),
});

/** A size as people say it: "4.7 GB", "0.35 GB". */
export const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(bytes < 1e9 ? 2 : 1)} GB`;

export { AreaSums } from "./area-sums.ts";
export { firstIndex } from "./first-index.ts";
export { LUMA_SHARES, luma } from "./luma.ts";
export { mean, median } from "./statistics.ts";
export { hannSinc, kaiserSinc } from "./windowed-sinc.ts";

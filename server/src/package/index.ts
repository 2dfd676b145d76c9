export { openPackage, readPackedShow } from "./read-package.ts";
export { writePackage } from "./write-package.ts";

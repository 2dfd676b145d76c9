export { openPackage } from "./read-package.ts";
export { writePackage } from "./write-package.ts";

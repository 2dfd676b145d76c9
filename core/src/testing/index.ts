export { anyEdit, type NamedEdit } from "./any-edit.ts";
export { propertyRuns } from "./property-runs.ts";

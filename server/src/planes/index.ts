export { drawsInPlanes } from "./draws-in-planes.ts";
export { PlanarImage, type RgbaPixels } from "./planar-image.ts";
export { PlanarSurface } from "./planar-surface.ts";
export { PlaneMemory } from "./plane-memory.ts";

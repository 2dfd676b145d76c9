/** How much larger or smaller than just covering the frame a picture is made by hand. */
export const LEAST_ZOOM = 0.2;
export const MOST_ZOOM = 4;

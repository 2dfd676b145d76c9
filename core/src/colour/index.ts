/** Colours of other video standards, brought to BT.709. Knows no other room but presence. */
export { type ColourTables, colourTables } from "./tables.ts";
export { colourSteps, isHdr, needsColourChange, type VideoColours } from "./to-bt709.ts";

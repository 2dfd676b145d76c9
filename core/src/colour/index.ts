/** Colours of other video standards, brought to BT.709. Knows no other room but presence. */
export { CUBE_NODES, cubeText } from "./cube.ts";
export { isHdr, needsColourChange, toBt709, type VideoColours } from "./to-bt709.ts";

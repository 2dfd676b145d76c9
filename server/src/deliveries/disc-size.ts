/** Bytes of recordable discs with one layer and with two, sold as 4.7 and 8.5 GB (from memory). */
export const DISC_BYTES = { single: 4_707_319_808, double: 8_543_666_176 } as const;
const SECTOR_BYTES = 2048;
/** Tables of contents, about. */
const TABLE_BYTES = 2_000_000;

/** What files take on a disc: whole sectors each, and the tables. */
export const bytesOnDisc = (fileBytes: readonly number[]): number =>
  TABLE_BYTES + fileBytes.reduce((sum, bytes) => sum + Math.ceil(bytes / SECTOR_BYTES) * SECTOR_BYTES, 0);

/** The disc that so many bytes ask for; null: there is none. */
export const discFor = (bytes: number): keyof typeof DISC_BYTES | null =>
  bytes <= DISC_BYTES.single ? "single" : bytes <= DISC_BYTES.double ? "double" : null;

/** Sums of a plane's columns over the rows of one row of cells: 16 bits hold 257 rows. */
let sums: usize = 0;
let room: i32 = 0;

function makeRoom(count: i32): void {
  if (count <= room) return;
  if (room > 0) heap.free(sums);
  room = count;
  // Whole vectors are read and written at the end.
  sums = heap.alloc(2 * (count + 16));
}

/**
 * Makes a plane as small as `columns` x `rows` cells: each is the rounded mean of the samples in
 * it. Cells may be uneven; none is empty, so that a plane smaller than they are gives its samples
 * more than once. A row of cells has at most 257 rows of samples.
 */
export function meanCells(plane: usize, width: i32, height: i32, columns: i32, rows: i32, to: usize): void {
  makeRoom(width);
  for (let row = 0; row < rows; row++) {
    const top = min(height - 1, (row * height) / rows);
    const bottom = max(top + 1, ((row + 1) * height) / rows);
    memory.fill(sums, 0, 2 * (width + 16));
    for (let y = top; y < bottom; y++) {
      const line = plane + y * width;
      for (let x = 0; x < width; x += 16) {
        const samples = v128.load(line + x);
        const at = sums + 2 * x;
        v128.store(at, i16x8.add(v128.load(at), i16x8.extend_low_i8x16_u(samples)));
        v128.store(at, i16x8.add(v128.load(at, 16), i16x8.extend_high_i8x16_u(samples)), 16);
      }
    }
    for (let column = 0; column < columns; column++) {
      const left = min(width - 1, (column * width) / columns);
      const right = max(left + 1, ((column + 1) * width) / columns);
      let sum: u32 = 0;
      for (let x = left; x < right; x++) sum += load<u16>(sums + 2 * x);
      const count = <u32>((bottom - top) * (right - left));
      store<u8>(to + row * columns + column, <u8>((2 * sum + count) / (2 * count)));
    }
  }
}

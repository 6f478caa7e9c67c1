// pipeline/rgba.ts: between the pixels of a canvas and planes of codes.

/** Splits `n` pixels, a multiple of 16, into planes; their fourth byte is dropped. */
export function split(n: i32, rgba: usize, r: usize, g: usize, b: usize): void {
  for (let i: usize = 0; i < <usize>n; i += 16) {
    const at = rgba + (i << 2);
    const p = v128.load(at);
    const q = v128.load(at, 16);
    const s = v128.load(at, 32);
    const t = v128.load(at, 48);
    // eight reds, then eight greens; eight blues, then what is dropped
    const rg = v128.shuffle<u8>(p, q, 0, 4, 8, 12, 16, 20, 24, 28, 1, 5, 9, 13, 17, 21, 25, 29);
    const moreRg = v128.shuffle<u8>(s, t, 0, 4, 8, 12, 16, 20, 24, 28, 1, 5, 9, 13, 17, 21, 25, 29);
    const ba = v128.shuffle<u8>(p, q, 2, 6, 10, 14, 18, 22, 26, 30, 3, 7, 11, 15, 19, 23, 27, 31);
    const moreBa = v128.shuffle<u8>(s, t, 2, 6, 10, 14, 18, 22, 26, 30, 3, 7, 11, 15, 19, 23, 27, 31);
    v128.store(r + i, v128.shuffle<u64>(rg, moreRg, 0, 2));
    v128.store(g + i, v128.shuffle<u64>(rg, moreRg, 1, 3));
    v128.store(b + i, v128.shuffle<u64>(ba, moreBa, 0, 2));
  }
}

function pixel(r: u32, g: u32, b: u32): u32 {
  return 0xff000000 | (b << 16) | (g << 8) | r;
}
/** Opaque pixels of `n` codes of one byte, by way of a table of bytes. */
export function join8(n: i32, r: usize, g: usize, b: usize, table: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const red = <u32>load<u8>(table + <usize>load<u8>(r + i));
    const green = <u32>load<u8>(table + <usize>load<u8>(g + i));
    const blue = <u32>load<u8>(table + <usize>load<u8>(b + i));
    store<u32>(out + (i << 2), pixel(red, green, blue));
  }
}
/** The same of codes of two bytes. */
export function join16(n: i32, r: usize, g: usize, b: usize, table: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++) {
    const red = <u32>load<u8>(table + <usize>load<u16>(r + (i << 1)));
    const green = <u32>load<u8>(table + <usize>load<u16>(g + (i << 1)));
    const blue = <u32>load<u8>(table + <usize>load<u16>(b + (i << 1)));
    store<u32>(out + (i << 2), pixel(red, green, blue));
  }
}

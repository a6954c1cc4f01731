/**
 * Block format, version 2: one column of up to `BLOCK_ROWS` samples.
 *
 * byte 0   version (2)
 * byte 1   order of differences taken: 0 values, 1 first, 2 second
 * byte 2   decimals d: a sample is integer / 10^d
 * byte 3   bit 0: samples are missing; bit 1: some differences are kept apart
 * then, whole numbers of seven bits a byte (zigzag where they have a sign):
 *   n, number of samples
 *   k, low bits kept beside the symbols
 *   for order 0 an integer all others are counted from, else the first `order` integers
 *   [bit 0] length and raw DEFLATE of a bitmap of missing samples
 *   [bit 1] how many differences are kept apart, and for each its distance from the one before
 *           and its zigzag value
 *   length and bytes of the coded symbols (`encodeSymbols`): 0 stands for a difference kept
 *           apart, s + 1 for one whose zigzag value has s above its low k bits
 *   the low bits, k for each difference that is not kept apart, first one highest
 */
export const BLOCK_VERSION = 2;

/** Samples in a full block. */
export const BLOCK_ROWS = 65536;

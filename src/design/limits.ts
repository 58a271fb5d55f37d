/** Counters, and the numbers written in a design, stay within the whole numbers that a double holds exactly. */
export const largestNumber = 2 ** 53;

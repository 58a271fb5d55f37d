/**
 * Says how many kilobytes something takes of its budget, and fails the script where that is more.
 *
 * @param {string} what
 * @param {number} size
 * @param {number} budget
 */
export function mustFit(what, size, budget) {
  const isOver = size > budget;
  process.stdout.write(
    `${isOver ? '✗' : '✓'} ${what.padEnd(30)} ${size.toFixed(1).padStart(6)} kB of ${budget} kB\n`,
  );
  if (isOver) process.exitCode = 1;
}

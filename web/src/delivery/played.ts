/** How many seconds of a film were played, each counted once. */
export function played(ranges: Pick<TimeRanges, 'length' | 'start' | 'end'> | undefined): number {
  let sum = 0
  for (let n = 0; ranges && n < ranges.length; n++) sum += ranges.end(n) - ranges.start(n)
  return sum
}

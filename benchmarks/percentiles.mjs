/** Median, 95th percentile and worst of some times in milliseconds, in words. */
export function percentiles(times) {
  const sorted = [...times].sort((left, right) => left - right)
  const at = (share) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))].toFixed(1)
  return `median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms, worst ${sorted.at(-1).toFixed(1)} ms of ${sorted.length}`
}

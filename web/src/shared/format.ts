/** Seconds as 0:41.3, or 1:02:05 without tenths from an hour on. */
export function clock(seconds: number, tenths = true): string {
  const whole = tenths ? Math.round(Math.max(seconds, 0) * 10) / 10 : Math.floor(Math.max(seconds, 0) + 0.5)
  const hours = Math.floor(whole / 3600)
  const minutes = Math.floor((whole % 3600) / 60)
  const rest = whole % 60
  const tail = tenths && !hours ? rest.toFixed(1).padStart(4, '0') : String(Math.floor(rest)).padStart(2, '0')
  return hours ? `${hours}:${String(minutes).padStart(2, '0')}:${tail}` : `${minutes}:${tail}`
}

/** Time left in words a person would use. */
export function timeLeft(seconds: number | null): string {
  if (seconds === null) return ''
  if (seconds < 8) return 'a few seconds left'
  if (seconds < 55) return `about ${Math.round(seconds / 5) * 5} s left`
  const minutes = Math.round(seconds / 60)
  return minutes < 2 ? 'about a minute left' : `about ${minutes} minutes left`
}

/** Bytes as MB or GB. */
export function size(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`
  return `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`
}

/** When something happened: the time today, else day and time. */
export function moment(iso: string): string {
  const when = new Date(iso)
  const time = when.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  if (when.toDateString() === new Date().toDateString()) return time
  return `${when.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}, ${time}`
}

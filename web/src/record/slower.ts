/** Sound with fewer samples a second: each is the mean of those that it stands for, also across the parts that come. */
export class Slower {
  private sum = 0
  private held = 0 // samples in it, with fractions

  constructor(private readonly rate: number) {}

  take(samples: Float32Array, from: number): Float32Array {
    const each = from / this.rate
    const made: number[] = []
    for (const value of samples) {
      const more = this.held + 1 - each
      if (more < 0) {
        this.sum += value
        this.held += 1
        continue
      }
      made.push((this.sum + value * (1 - more)) / each)
      this.sum = value * more
      this.held = more
    }
    return Float32Array.from(made)
  }
}

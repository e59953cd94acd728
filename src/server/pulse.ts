import { randomBytes } from 'node:crypto';

/** Counts what changed since the start, so that whoever asks again and again is told in a word that nothing has. */
export class Pulse {
  private readonly start = randomBytes(6).toString('hex');
  private count = 0;

  bump(): void {
    this.count++;
  }

  get tag(): string {
    return `"${this.start}-${this.count}"`;
  }
}
